import { audienceSchema } from '../../../core/audience/audience';
import { listWords } from '../../../core/copy/list-words';
import { bodyText } from '../../../core/copy/plain';
import { wordingSchema } from '../../../core/copy/words';
import { turnsSchema } from '../../../core/plan/turns';
import { wantedSchema } from '../../../core/plan/wanted';
import { invitationSchema } from '../../../core/talk/invitation-schema';
import { sheetEventSchema } from '../../../core/time/sheet-event';
import { timingSchema } from '../../../core/time/timing';
import type { Query } from '../../db/open';
import { boardSchema, copiesSchema, letterSchema, type Sheet } from './sheet';
import { dispatch, type DispatchRow } from '../../db/models/dispatch';
import type { NewRow } from '../../db/models/table';

/** The columns of `dispatch` that hold a sheet, as they come out of the database. */
export const sheetColumns = `sheet_key AS sheetKey, kind, audience, ways, turns, cover, chases, handling AS copies, wording, letter,
	board, invitation, event, timing, wanted, hold_minutes AS holdMinutes`;
export type SheetRow = Pick<Sheet, 'sheetKey' | 'kind' | 'cover' | 'chases' | 'holdMinutes'> &
	Record<
		| 'audience'
		| 'ways'
		| 'turns'
		| 'copies'
		| 'wording'
		| 'letter'
		| 'board'
		| 'invitation'
		| 'event'
		| 'timing'
		| 'wanted',
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
	invitation: invitationSchema.parse(JSON.parse(row.invitation)),
	event: sheetEventSchema.parse(JSON.parse(row.event)),
	timing: timingSchema.parse(JSON.parse(row.timing)),
	wanted: wantedSchema.parse(JSON.parse(row.wanted))
});

/** By which a sheet is put down in `dispatch`; `words` is its audience as a sentence. */
export const sheetValues = (sheet: Sheet, words: string) => ({
	subject: listWords(sheet.wording.words.subject.trim()),
	body: listWords(bodyText(sheet.wording.words.body)),
	audience: JSON.stringify(sheet.audience),
	audienceWords: words,
	ways: JSON.stringify(sheet.ways),
	turns: JSON.stringify(sheet.turns),
	cover: sheet.cover,
	chases: sheet.chases,
	kind: sheet.kind,
	handling: JSON.stringify(sheet.copies),
	wording: JSON.stringify(sheet.wording),
	letter: JSON.stringify(sheet.letter),
	board: JSON.stringify(sheet.board),
	invitation: JSON.stringify(sheet.invitation),
	event: JSON.stringify(sheet.event),
	timing: JSON.stringify(sheet.timing),
	wanted: JSON.stringify(sheet.wanted),
	holdMinutes: sheet.holdMinutes
});

/** What is said of a dispatch when it is put down. */
export type DispatchValues = Partial<DispatchRow>;

/** Changes a dispatch, or puts a new one in where `id` is null; a new one needs all that has no usual value. Returns its id. */
export async function putDispatch(
	tx: Query,
	id: number | null,
	values: DispatchValues
): Promise<number> {
	const dispatches = tx.rows(dispatch);
	if (id === null) return dispatches.add(values as NewRow<typeof dispatch>);
	await dispatches.change({ id }, values);
	return id;
}
