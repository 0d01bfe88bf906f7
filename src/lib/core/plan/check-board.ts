import type { NoBoard } from '../audience/boards';
import { block, caution, someNames, type Check } from './check';

/** What the check of the boards looks at. */
export interface BoardInput {
	/** Names of the boards it will stand on; null where it is not meant to stand on any. */
	readonly names: readonly string[] | null;
	readonly notFor: readonly NoBoard[];
	/** Whether it goes by no way, and only stands there. */
	readonly standsOnly: boolean;
	/** Whether somebody is picked at all. */
	readonly picked: boolean;
	/** Instants, ms: when it begins to stand, and when it leaves the boards; null for no end. */
	readonly from: number;
	readonly until: number | null;
	readonly now: number;
}

/** Why a part of the audience has no board of its own. */
const why: Readonly<Record<NoBoard, string>> = {
	narrowed: 'it is meant for some of those who are picked',
	students: 'students are picked one by one',
	people: 'people are picked for themselves',
	grades: 'a grade has no board',
	uncovered: 'it is meant for those who have not read something',
	'not-own': 'you do not write to everybody there'
};

/** Why an announcement stands on no board, or on no more than it does. */
const noBoardWords = (notFor: readonly NoBoard[]): string =>
	notFor.map((code) => why[code]).join('; ');

/** What is to be said of the boards of an announcement. */
export function boardChecks({
	names,
	notFor,
	standsOnly,
	picked,
	from,
	until,
	now
}: BoardInput): Check[] {
	if (names === null) return [];
	if (names.length === 0)
		return picked && !standsOnly && notFor.length > 0
			? [caution('board', `It stands on no board: ${noBoardWords(notFor)}.`)]
			: [];
	if (until !== null && until <= from)
		return [
			block('board', 'It would leave the boards before it stands there. Give it a later end.')
		];
	if (until !== null && until <= now)
		return [block('board', 'Its time on the boards is past already. Give it a later end.')];
	const stands = `${standsOnly ? 'Only stands' : 'Stands'} on ${names.length === 1 ? 'the board of' : `${names.length} boards:`} ${someNames(names)}`;
	return [
		notFor.length > 0
			? caution('board', `${stands}, and not wherever it is meant for: ${noBoardWords(notFor)}.`)
			: { level: 'fine', where: 'board', text: `${stands}.` }
	];
}
