import type { Right, Where } from '../../access/rights';

/** What each right lets somebody do, as the end of “can …”. */
export const rightWords: Readonly<Record<Right, string>> = {
	see: 'see people, what was sent and who has read it',
	write: 'write sheets to them',
	schedule: 'send what was written, move it, call it back and stop it',
	urgent: 'send urgently, past quiet hours',
	'pass-over': 'send what is urgent also to those who have declined its kind',
	answer: 'answer families',
	'look-after': 'correct people, addresses, groups, markers, and days without school',
	'give-link': 'give a family a link to its inbox, and be told of addresses that fail',
	roster: 'bring rosters and contact lists in, and take everything out',
	settings: 'change what the district has decided',
	accounts: 'say who works here, and what each can do',
	log: 'read what was done',
	operate: 'see how the courier is, and let it go on after a backup was put back'
};

/** Where a right holds: “in the whole district”, “at Heron Landing”, “in the sections that the roster names”. */
export function whereWords(
	{ whole, schools, sections, own }: Where,
	school: (id: number) => string,
	section: (id: number) => string
): string {
	if (whole) return 'in the whole district';
	return [
		...(schools.length > 0 ? [`at ${schools.map(school).join(', ')}`] : []),
		...(own ? ['in the sections that the roster says they teach'] : []),
		...(sections.length > 0 ? [`in ${sections.map(section).join(', ')}`] : [])
	].join(', and ');
}
