/** How somebody's consent to an address came to us: by a text, on their own page, as an office wrote it down, in a contact list, by joining an open group. */
export type ConsentHow = 'text' | 'own' | 'hand' | 'list' | 'joined';

/** What is known of the consent to one address. */
export interface Consent {
	readonly way: 'email' | 'text';
	readonly consent: 'in' | 'out' | 'unknown';
	readonly how: ConsentHow | null;
	/** What an office or a list says of it: "enrolment form". */
	readonly said: string | null;
}

/** "opted in, by text", "opted in: enrolment form"; empty where there is nothing to say. Its time is told beside. */
export function consentWords({ way, consent, how, said }: Consent): string {
	const state =
		way === 'text'
			? { in: 'opted in', out: 'opted out', unknown: 'has not opted in' }[consent]
			: { in: '', out: 'asked for no email', unknown: '' }[consent];
	if (state === '' || consent === 'unknown' || how === null) return state;
	const source = { text: ', by text', own: ', by themselves', hand: '', list: '', joined: '' }[how];
	return said ? `${state}: ${said}` : `${state}${source}`;
}
