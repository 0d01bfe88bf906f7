import { Umzug, type UmzugStorage } from 'umzug';
import { CannotStart } from '../settings';
import type { Db } from './open';
import * as ground from './migrations/001-ground';
import * as audiences from './migrations/002-audiences';
import * as wording from './migrations/003-wording';
import * as time from './migrations/004-time';
import * as evidence from './migrations/005-evidence';
import * as edge from './migrations/006-edge';
import * as truth from './migrations/007-truth';
import * as codes from './migrations/008-codes';
import * as indexes from './migrations/009-indexes';
import * as origins from './migrations/010-origins';
import * as rosters from './migrations/011-rosters';
import * as consent from './migrations/012-consent';
import * as lists from './migrations/013-lists';
import * as madeOne from './migrations/014-made-one';
import * as groups from './migrations/015-groups';
import * as markers from './migrations/016-markers';
import * as standing from './migrations/017-standing';
import * as openGroups from './migrations/018-open-groups';
import * as textParts from './migrations/019-text-parts';
import * as conversations from './migrations/020-conversations';
import * as autoNotes from './migrations/021-auto-notes';
import * as familySide from './migrations/022-family-side';
import * as liveLines from './migrations/023-live-lines';
import * as links from './migrations/024-links';
import * as digests from './migrations/025-digests';
import * as openTalks from './migrations/026-open-talks';
import * as log from './migrations/027-log';
import * as rights from './migrations/028-rights';
import * as accounts from './migrations/029-accounts';
import * as settings from './migrations/030-settings';
import * as outside from './migrations/031-outside';
import * as leaving from './migrations/032-leaving';
import * as schoolTime from './migrations/033-school-time';
import * as boards from './migrations/034-boards';
import * as calendarOut from './migrations/035-calendar-out';
import * as feeds from './migrations/036-feeds';
import * as feedsPutBack from './migrations/037-feeds-put-back';
import * as invitations from './migrations/038-invitations';
import * as eventsWithSheets from './migrations/039-events-with-sheets';
import * as expecting from './migrations/040-expecting';
import * as learningInParts from './migrations/041-learning-in-parts';
import * as spokenTo from './migrations/042-spoken-to';
import * as partsKept from './migrations/043-parts-kept';
import type { MigrationRow } from './models/running';

/** Every migration, oldest first. A migration that has shipped is never edited; a change is a new one. */
const migrations = [
	{ name: '001-ground', up: ground.up },
	{ name: '002-audiences', up: audiences.up },
	{ name: '003-wording', up: wording.up },
	{ name: '004-time', up: time.up },
	{ name: '005-evidence', up: evidence.up },
	{ name: '006-edge', up: edge.up },
	{ name: '007-truth', up: truth.up },
	{ name: '008-codes', up: codes.up },
	{ name: '009-indexes', up: indexes.up },
	{ name: '010-origins', up: origins.up },
	{ name: '011-rosters', up: rosters.up },
	{ name: '012-consent', up: consent.up },
	{ name: '013-lists', up: lists.up },
	{ name: '014-made-one', up: madeOne.up },
	{ name: '015-groups', up: groups.up },
	{ name: '016-markers', up: markers.up },
	{ name: '017-standing', up: standing.up },
	{ name: '018-open-groups', up: openGroups.up },
	{ name: '019-text-parts', up: textParts.up },
	{ name: '020-conversations', up: conversations.up },
	{ name: '021-auto-notes', up: autoNotes.up },
	{ name: '022-family-side', up: familySide.up },
	{ name: '023-live-lines', up: liveLines.up },
	{ name: '024-links', up: links.up },
	{ name: '025-digests', up: digests.up },
	{ name: '026-open-talks', up: openTalks.up },
	{ name: '027-log', up: log.up },
	{ name: '028-rights', up: rights.up },
	{ name: '029-accounts', up: accounts.up },
	{ name: '030-settings', up: settings.up },
	{ name: '031-outside', up: outside.up },
	{ name: '032-leaving', up: leaving.up },
	{ name: '033-school-time', up: schoolTime.up },
	{ name: '034-boards', up: boards.up },
	{ name: '035-calendar-out', up: calendarOut.up },
	{ name: '036-feeds', up: feeds.up },
	{ name: '037-feeds-put-back', up: feedsPutBack.up },
	{ name: '038-invitations', up: invitations.up },
	{ name: '039-events-with-sheets', up: eventsWithSheets.up },
	{ name: '040-expecting', up: expecting.up },
	{ name: '041-learning-in-parts', up: learningInParts.up },
	{ name: '042-spoken-to', up: spokenTo.up },
	{ name: '043-parts-kept', up: partsKept.up }
];

/**
 * Brings a database file up to the present tables, an empty one or one with data in it. Each
 * migration runs in a transaction with its own record, so that one that fails leaves nothing half done.
 * Foreign keys are off meanwhile, since a table that is made anew must not take what names it along
 * (sqlite.org/lang_altertable.html section 7), and are checked before each is recorded. `upTo` stops
 * at an older state, to try what comes after it.
 */
export async function migrate(db: Db, { upTo }: { upTo?: string } = {}): Promise<void> {
	await db.run(
		'CREATE TABLE IF NOT EXISTS migration (name TEXT PRIMARY KEY NOT NULL) WITHOUT ROWID'
	);
	const storage: UmzugStorage = {
		// Recorded by the migration's own transaction below.
		logMigration: async () => {},
		unlogMigration: async ({ name }) =>
			db.run('DELETE FROM migration WHERE name = $name', { name }),
		executed: async () =>
			(await db.all<Pick<MigrationRow, 'name'>>('SELECT name FROM migration ORDER BY name')).map(
				(row) => row.name
			)
	};
	const umzug = new Umzug({
		migrations: (upTo === undefined
			? migrations
			: migrations.slice(0, migrations.findIndex((m) => m.name === upTo) + 1)
		).map(({ name, up }) => ({
			name,
			up: () =>
				db.write(async (tx) => {
					// Another process may have come first while this one waited for the lock.
					if (await tx.one('SELECT 1 FROM migration WHERE name = $name', { name })) return;
					for (const statement of up) await tx.run(statement);
					const [broken] = await tx.all<{ table: string }>('PRAGMA foreign_key_check');
					if (broken)
						throw new Error(`${name}: a row of ${broken.table} names one that is not there`);
					await tx.run('INSERT INTO migration (name) VALUES ($name)', { name });
				})
		})),
		storage,
		logger: undefined
	});
	// A step back: what a newer version has made of it, this one would write wrongly.
	const ours = new Set(migrations.map((m) => m.name));
	const newer = (await storage.executed({ context: {} })).filter((name) => !ours.has(name));
	if (newer.length > 0)
		throw new CannotStart(
			`This database was brought up to date by a newer version (${newer.join(', ')}). Start that one; or put back the backup from before the upgrade: npm run restore.`
		);
	if ((await umzug.pending()).length === 0) return;
	await db.run('PRAGMA foreign_keys = OFF');
	try {
		await umzug.up();
	} finally {
		await db.run('PRAGMA foreign_keys = ON');
	}
}
