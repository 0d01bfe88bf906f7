import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import { wordingOf } from '../../../../../src/lib/core/copy/words';
import { setClock } from '../../../../../src/lib/server/clock';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { sheetWith } from '../../../../../src/lib/server/desk/sheet/sheet';
import { districtWithCoordinator, testStart } from '../../database';

/** A district in which a dispatch by every way to its first sections has been put down. */
export async function sentDistrict(seed: number, sectionCount: number) {
	const house = await districtWithCoordinator(seed);
	const { db, user } = house;
	await setClock(db, testStart);
	const rows = await db.all<{ id: number }>(
		`SELECT id FROM section WHERE term_id = 2 ORDER BY id LIMIT ${sectionCount}`
	);
	const sections = rows.map((s) => s.id);
	const sheet = sheetWith({
		sheetKey: crypto.randomUUID(),
		audience: audienceOf(sections),
		wording: wordingOf('Boats', 'The boat is late.'),
		...{ ways: ['email', 'text', 'inbox'], holdMinutes: 0 }
	});
	const { tally } = await landing(db, user, sheet);
	const sent = await schedule(db, Buffer.alloc(32, 7), user, sheet, tally.copies);
	if (!sent.ok) throw new Error(sent.checks.map((c) => c.text).join(' '));
	return { ...house, dispatchId: sent.dispatchId, sections };
}
