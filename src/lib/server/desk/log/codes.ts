import type { LoggedValues } from '../../access/log';

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
	'read-log': 'read what was done'
};
/** "send urgently", of the code of an act. */
export const actWords = (act: unknown): string => acts[String(act)] ?? 'do something';

const out: Readonly<Record<string, string>> = {
	roster: 'the roster',
	contacts: 'every contact',
	cards: 'cards',
	members: 'the members of a group',
	joined: 'who joined a group',
	marks: 'a marker’s list',
	deliveries: 'the copies of a dispatch',
	account: 'the account of a dispatch',
	manifest: 'names and addresses of a sheet',
	calls: 'a list for calls',
	sheets: 'first-access sheets',
	letters: 'letters',
	person: 'one person’s whole file',
	everything: 'everything'
};
/** "every contact", of the code of what was taken out. */
export const whatWentOut = (what: unknown): string => out[String(what)] ?? 'something';

/** "quiet hours: text", of a change of a setting. */
export const settingWords = ({ what }: LoggedValues): string =>
	typeof what === 'string' ? `the setting ${what}` : 'a setting';
