import { nameOfLanguage } from '../../../core/copy/language';
/** Words for the codes that stand in the log. */

const roleNames: Readonly<Record<string, string>> = {
	coordinator: 'a coordinator',
	principal: 'a principal',
	office: 'of the school office',
	teacher: 'a teacher',
	helper: 'a helper',
	operator: 'an operator'
};
/** "a teacher", of the name of a role. */
export const roleWords = (role: unknown): string => roleNames[String(role)] ?? 'something';

const acts: Readonly<Record<string, string>> = {
	write: 'write a sheet',
	'write-to-school': 'write to a whole school',
	schedule: 'send a sheet',
	answer: 'answer a family',
	handle: 'handle what somebody else made',
	close: 'close a school',
	'speak-for-district': 'speak for the district',
	'see-others': 'see others’ students',
	'send-urgently': 'send urgently',
	'pass-over': 'pass over what readers have declined',
	operate: 'look after the running',
	mend: 'put an address right',
	'correct-people': 'correct people',
	'look-after': 'look after a school',
	'make-marker': 'make a marker',
	'give-link': 'give a link to an inbox',
	'import-calendar': 'bring a calendar in',
	'bring-roster': 'bring a roster in',
	settings: 'change settings',
	accounts: 'say who works here',
	'take-all-along': 'take everything along',
	'read-log': 'read what was done'
};
/** "send urgently", of the code of an act. */
export const actWords = (act: unknown): string => acts[String(act)] ?? 'do something';

const outside: Readonly<Record<string, string>> = {
	'no-claim': 'who they are was not said',
	unconfirmed: 'their mail address is not confirmed there',
	nobody: 'nobody here is known by it',
	several: 'several are known by it here',
	'other-name': 'the account belongs to another name there',
	'by-hand': 'the address was written by hand',
	closed: 'the account is closed',
	'no-role': 'no role'
};
/** "the account is closed", of the code of why somebody from the identity provider was not let in. */
export const outsideRefused = (why: unknown): string => outside[String(why)] ?? 'some reason';

const out: Readonly<Record<string, string>> = {
	roster: 'the roster',
	contacts: 'every contact',
	cards: 'cards',
	members: 'the members of a group',
	joined: 'who joined a group',
	marks: 'a marker’s list',
	deliveries: 'the copies of a dispatch',
	account: 'the account of a dispatch',
	'door-list': 'the list of who comes',
	silent: 'the families that nothing had reached',
	report: 'the report of a term',
	letter: 'a letter as it left',
	manifest: 'names and addresses of a sheet',
	sheets: 'first-access sheets',
	person: 'one person’s whole file',
	everything: 'what the district takes along'
};
/** "every contact", of the code of what was taken out. */
export const whatWentOut = (what: unknown): string => out[String(what)] ?? 'something';

/** "made", of the code of what was done to a group. */
export const groupDone = (what: unknown): string => (what === 'made' ? 'made' : 'changed');

const joining: Readonly<Record<string, string>> = {
	opened: 'opened',
	closed: 'closed',
	removed: 'took somebody out of',
	'let-ask': 'let somebody ask again to join'
};
/** "took somebody out of", of the code of what was done to an open group. */
export const joiningDone = (what: unknown): string => joining[String(what)] ?? 'changed';

const chapters: Readonly<Record<string, string>> = {
	'mail-server': 'the mail server',
	'identity-provider': 'the identity provider',
	'text-provider': 'the text provider',
	district: 'the district',
	quiet: 'quiet hours and school days',
	'watched-folder': 'what comes in from the watched folder by itself',
	languages: 'the languages',
	letterhead: 'the letterhead',
	sending: 'hold, pace, price and load',
	answers: 'links, answers and evidence',
	boards: 'the boards',
	files: 'files',
	keeping: 'how long things are kept',
	factor: 'the second factor'
};
/** "the mail server", of the code of a chapter of the settings; `school` names a school by its id. */
export function chapterWords(chapter: unknown, school: (id: unknown) => string): string {
	const [of, id] = String(chapter).split('-');
	if (of === 'school') return `what ${school(id)} has of its own`;
	if (of === 'words') return `a speaker has checked our words in ${nameOfLanguage(id ?? '')}`;
	return chapters[String(chapter)] ?? 'a chapter';
}
