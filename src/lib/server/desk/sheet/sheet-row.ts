import { audienceSchema } from '../../../core/audience/audience';
import { listWords } from '../../../core/copy/list-words';
import { bodyText } from '../../../core/copy/plain';
import { wordingSchema } from '../../../core/copy/words';
import { turnsSchema } from '../../../core/plan/turns';
import { timingSchema } from '../../../core/time/timing';
import type { Query } from '../../db/open';
import { boardSchema, copiesSchema, letterSchema, type Sheet } from './sheet';

/** The columns of `dispatch` that hold a sheet, as they come out of the database. */
export const sheetColumns = `sheet_key AS sheetKey, kind, audience, ways, turns, cover, chases, handling AS copies, wording, letter,
	board, timing, hold_minutes AS holdMinutes`;
export type SheetRow = Pick<Sheet, 'sheetKey' | 'kind' | 'cover' | 'chases' | 'holdMinutes'> &
	Record<
		'audience' | 'ways' | 'turns' | 'copies' | 'wording' | 'letter' | 'board' | 'timing',
		string
	>;

/** The sheet of a row. Throws where the database holds what no sheet can be. */
export const sheetOfRow = (row: SheetRow): Sheet => ({
	sheetKey: row.sheetKey,
	kind: row.kind,
	holdMinutes: row.holdMinutes,
	audience: audienceSchema.parse(JSON.parse(row.audience)),
	ways: JSON.parse(row.ways) as Sheet['ways'],
	turns: turnsSchema.parse(JSON.parse(row.turns)),
	cover: row.cover,
	chases: row.chases,
	copies: copiesSchema.parse(JSON.parse(row.copies)),
	wording: wordingSchema.parse(JSON.parse(row.wording)),
	letter: letterSchema.parse(JSON.parse(row.letter)),
	board: boardSchema.parse(JSON.parse(row.board)),
	timing: timingSchema.parse(JSON.parse(row.timing))
});

/** Columns and values by which a sheet is put down in `dispatch`; `words` is its audience as a sentence. */
export const sheetValues = (
	sheet: Sheet,
	words: string
): Record<string, string | number | null> => ({
	subject: listWords(sheet.wording.words.subject.trim()),
	body: listWords(bodyText(sheet.wording.words.body)),
	audience: JSON.stringify(sheet.audience),
	audience_words: words,
	ways: JSON.stringify(sheet.ways),
	turns: JSON.stringify(sheet.turns),
	cover: sheet.cover,
	chases: sheet.chases,
	kind: sheet.kind,
	handling: JSON.stringify(sheet.copies),
	wording: JSON.stringify(sheet.wording),
	letter: JSON.stringify(sheet.letter),
	board: JSON.stringify(sheet.board),
	timing: JSON.stringify(sheet.timing),
	hold_minutes: sheet.holdMinutes
});

/** Writes columns of a dispatch: of the one with this id, or of a new one where it is null. Returns its id. */
export async function putDispatch(
	tx: Query,
	id: number | null,
	values: Readonly<Record<string, string | number | null>>
): Promise<number> {
	const names = Object.keys(values);
	if (id !== null) {
		await tx.run(
			`UPDATE dispatch SET ${names.map((n) => `${n} = $${n}`).join(', ')} WHERE id = $id`,
			{ ...values, id }
		);
		return id;
	}
	await tx.run(
		`INSERT INTO dispatch (${names.join(', ')}) VALUES (${names.map((n) => `$${n}`).join(', ')})`,
		values
	);
	return (await tx.one<{ id: number }>('SELECT id FROM dispatch WHERE sheet_key = $key', {
		key: values.sheet_key as string
	}))!.id;
}
