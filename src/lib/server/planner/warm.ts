import { randomUUID } from 'node:crypto';
import { wordingOf } from '../../core/copy/words';
import { byWays } from '../../core/plan/handling';
import { planManifest } from '../../core/plan/plan-manifest';
import { dispatchKinds } from '../../core/roster/types';
import { ways } from '../../core/roster/way';
import { usersWho } from '../access/user';
import type { SchoolRow, SectionRow } from '../db/models/roster';
import { nameBook } from '../db/names';
import type { Db } from '../db/open';
import { readRoster } from '../db/roster';
import { landing } from '../desk/plan/tally';
import { sheetWith } from '../desk/sheet/sheet';

/** So many tallies are worked out while nobody waits: until what they go through is compiled, one takes ten times as long. */
const rehearsals = 12;
/** Sections of one of them, as somebody picks a few. */
const picked = 3;

/** Works tallies out that nobody has asked for. Nothing is written down. */
async function rehearse(db: Db): Promise<void> {
	const [user] = await usersWho(db, 'schedule', { whole: true });
	if (!user) return;
	const sections = await db.all<Pick<SectionRow, 'id'>>(
		`SELECT id FROM section_now ORDER BY id LIMIT ${rehearsals * picked}`
	);
	for (let i = 0; i < sections.length; i += picked) {
		const ids = sections.slice(i, i + picked).map((s) => s.id);
		await landing(
			db,
			user,
			sheetWith({
				sheetKey: randomUUID(),
				audience: {
					version: 2,
					lines: [
						{ verb: 'and', to: [{ kind: 'guardians' }], of: { kind: 'sections', ids }, only: [] }
					],
					byHand: []
				},
				ways: [...ways],
				wording: wordingOf('A rehearsal', 'Dear {{first_name}}, this is about {{student}}.')
			})
		);
	}
}

/** Reads what everything else needs and goes through what is asked most, before somebody waits for it. */
export async function warm(db: Db): Promise<void> {
	const roster = await readRoster(db);
	await nameBook(db, { version: 2, lines: [], byHand: [] });
	// Looks every guardian's addresses over once; the plans after it find them looked over.
	const everyone = await db.all<Pick<SchoolRow, 'id'>>('SELECT id FROM school');
	const of = { kind: 'schools' as const, ids: everyone.map((s) => s.id) };
	for (const kind of dispatchKinds)
		planManifest(
			roster,
			{
				version: 2,
				lines: [{ verb: 'and', to: [{ kind: 'guardians' }], of, only: [] }],
				byHand: []
			},
			byWays(ways, { kind })
		);
	await rehearse(db);
}
