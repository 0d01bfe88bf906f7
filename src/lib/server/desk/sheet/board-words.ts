import { z } from 'zod';
import { lettersOf, type Letters } from '../../../core/copy/letter';
import { wordingSchema, type Wording } from '../../../core/copy/words';
import { zoneOf } from '../../../core/time/clocks';
import { groupBy } from '../../../core/group-by';
import { letterheadOf, readDistrict } from '../../db/district';
import type { Query } from '../../db/open';
import { readClocks } from '../../db/school-own';
import { letterSchema, type LetterSettings } from './sheet';

/** What boards say of a dispatch in one of its versions: what was sent, or what somebody has put in its place there. */
interface BoardVersion {
	readonly letters: Letters;
	/** Since when it says so (instant, ms); null for what was sent. */
	readonly at: number | null;
}

/** All that boards say of a dispatch. */
export interface BoardWords {
	/** The newest first. */
	readonly versions: readonly BoardVersion[];
	/** Who sent it, with title. */
	readonly sender: string;
	readonly files: LetterSettings['files'];
	/** What was recorded for it; null where nothing was. */
	readonly note: LetterSettings['note'];
}

const clockSchema = z.object({ clock: z.number().nullable().default(null) });

interface SaidRow {
	readonly id: number;
	readonly wording: string;
	readonly letter: string;
	readonly timing: string;
	readonly leavesAt: number | null;
	readonly name: string;
	readonly title: string;
}

/**
 * What boards say of some dispatches, by their ids; `asRead` changes a wording for who reads it. Links lead where
 * they say: on a board nothing is learned of who follows them.
 */
export async function boardWords(
	db: Query,
	ids: readonly number[],
	asRead: (wording: Wording) => Wording
): Promise<ReadonlyMap<number, BoardWords>> {
	const asked = { ids: JSON.stringify(ids) };
	const rows = await db.all<SaidRow>(
		`SELECT dispatch.id, wording, letter, timing, leaves_at AS leavesAt,
			given_name || ' ' || family_name AS name, coalesce(title, '') AS title
		FROM dispatch JOIN person ON person.id = sender_id LEFT JOIN sign_in ON sign_in.person_id = sender_id
		WHERE dispatch.id IN (SELECT value FROM json_each($ids))`,
		asked
	);
	const changed = groupBy(
		await db.all<{ dispatchId: number; wording: string; at: number }>(
			`SELECT dispatch_id AS dispatchId, wording, at FROM board_wording
			WHERE dispatch_id IN (SELECT value FROM json_each($ids)) ORDER BY id DESC`,
			asked
		),
		(c) => c.dispatchId
	);
	const district = await readDistrict(db);
	const clocks = await readClocks(db);
	return new Map(
		rows.map((row) => {
			const frame = {
				signature: { name: row.name, line: [row.title, district.name].filter(Boolean).join(', ') },
				zone: zoneOf(clocks, clockSchema.parse(JSON.parse(row.timing)).clock),
				style: district.clock,
				letterhead: letterheadOf(district),
				leavesAt: row.leavesAt ?? 0,
				...{ sectionBefore: false, sectionLine: false, files: [], trace: null }
			};
			const letter = letterSchema.parse(JSON.parse(row.letter));
			const said: readonly { wording: string; at: number | null }[] = [
				...(changed.get(row.id) ?? []),
				{ wording: row.wording, at: null }
			];
			return [
				row.id,
				{
					versions: said.map(({ wording, at }) => ({
						letters: lettersOf(asRead(wordingSchema.parse(JSON.parse(wording))), frame),
						at
					})),
					sender: [row.name, row.title].filter(Boolean).join(', '),
					files: letter.files,
					note: letter.note
				}
			];
		})
	);
}
