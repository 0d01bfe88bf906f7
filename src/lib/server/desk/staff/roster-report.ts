import { allCounted, countOf } from '../../../core/roster/counts';
import { count } from '../../../core/copy/count';
import { usersWho } from '../../access/user';
import { now } from '../../clock';
import type { RosterFileRow } from '../../db/models/rosters';
import type { Db } from '../../db/open';
import { whyNotByItself, type Holds } from '../roster/nightly';
import type { Looked } from '../roster/types';
import { putNotices, type Notice } from './notices';

/** Files of the watched folder that are older than this are no news, ms. */
const newsMs = 2 * 86_400_000;

const holdWords: Readonly<Record<Holds, string>> = {
	first: 'it is the first of its source',
	wrong: 'it has lines that are wrong',
	questions: 'it has people who may be somebody known',
	'too-much': 'more goes or changes at once than usual'
};

type Row = Pick<RosterFileRow, 'id' | 'name' | 'state' | 'why' | 'looked'>;

/** What became of a file, as a subject and paragraphs. */
function reportOf(
	row: Row,
	last: Looked | null,
	url: string
): { readonly subject: string; readonly text: string } {
	const looked = row.looked === null ? null : (JSON.parse(row.looked) as Looked);
	if (looked === null)
		return {
			subject: `The roster ${row.name} cannot be read`,
			text: `${row.why ?? ''}\n\nNothing has changed. ${url}`
		};
	const { counts } = looked;
	const numbers = (['new', 'changed', 'gone'] as const)
		.map((what) => `${count(countOf(counts, what))} ${what}`)
		.join(', ');
	const unsaid = looked.unsaid.reduce((n, u) => n + u.contacts, 0);
	const notes = [
		unsaid > 0
			? `Of ${count(unsaid)} new ${unsaid === 1 ? 'guardian' : 'guardians'} nobody has said whether they have custody: they are left out until somebody does.`
			: '',
		looked.disputes > 0
			? `${count(looked.disputes)} ${looked.disputes === 1 ? 'field was' : 'fields were'} mended here by hand, and the file has changed it too: the file’s word was taken.`
			: '',
		...looked.effects.map((e) => `${e.name}: ${count(e.inCount)} more, ${count(e.outCount)} fewer.`)
	].filter(Boolean);
	if (row.state === 'taken')
		return {
			subject: `The roster came in: ${allCounted(counts) === 0 ? 'nothing changed' : numbers}`,
			text: [`${row.name}: ${numbers}.`, ...notes, `Look at it, or take it back: ${url}`].join(
				'\n\n'
			)
		};
	const why = whyNotByItself(looked, last).map((hold) => holdWords[hold]);
	return {
		subject: `A roster waits for you: ${numbers}, ${count(looked.wrong)} wrong`,
		text: [
			`${row.name} did not come in by itself, since ${why.join(' and ') || 'something changed meanwhile'}.`,
			`Look at it and take it in: ${url}`
		].join('\n\n')
	};
}

/** Tells the district office what became of each file of the watched folder, once. Returns how many letters were written. */
export async function reportRosters(db: Db, publicUrl: string): Promise<number> {
	const since = (await now(db)) - newsMs;
	const rows = await db.all<Row & { readonly last: string | null }>(
		`SELECT id, name, state, why, looked,
			(SELECT looked FROM roster_file AS other WHERE other.source_id = roster_file.source_id
				AND other.state = 'taken' AND other.id < roster_file.id ORDER BY other.id DESC LIMIT 1) AS last
		FROM roster_file WHERE by_id IS NULL AND state IN ('taken', 'looked', 'refused') AND changed_at >= $since
			AND NOT EXISTS (SELECT 1 FROM notice WHERE kind = 'roster'
				AND key LIKE 'roster ' || roster_file.id || ' ' || roster_file.state || ' %')`,
		{ since }
	);
	if (rows.length === 0) return 0;
	const notices: Notice[] = [];
	for (const user of await usersWho(db, 'roster'))
		for (const row of rows)
			notices.push({
				key: `roster ${row.id} ${row.state} ${user.personId}`,
				personId: user.personId,
				kind: 'roster',
				...reportOf(
					row,
					row.last === null ? null : (JSON.parse(row.last) as Looked),
					`${publicUrl}/people/rosters/${row.id}`
				),
				dispatchId: null,
				byMail: true
			});
	await db.write((tx) => putNotices(tx, notices));
	return notices.length;
}
