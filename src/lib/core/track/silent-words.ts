import { count } from '../copy/count';
import { nameList } from '../copy/names';
import type { Way } from '../roster/way';
import { wayThings } from './habit';
import type { Silence } from './silent';

/** What a kind of silence is called, and what it means. */
export const silenceWords: Readonly<
	Record<Silence, { readonly name: string; readonly note: string }>
> = {
	'no-way': { name: 'No working way', note: 'no address of theirs works today' },
	'left-out': { name: 'Left out each time', note: 'a way works, and no copy left for them' },
	'not-arrived': { name: 'Nothing arrived', note: 'every copy came back' },
	'not-read': { name: 'Never read', note: 'copies arrived, and nobody read one' }
};

/** A way by which a home can be written to today. */
export interface WayOpen {
	readonly way: Way;
	/** Whether copies left by it in the stretch. */
	readonly tried: boolean;
	/** Whether messages may come by it and announcements may not: they have declined these. */
	readonly messagesOnly?: boolean;
	/** The share of such copies that is to be expected to be read, 0 to 1; null where too little is known. */
	readonly share: number | null;
}

/** Less than this is not worth a try of its own. */
const worthTrying = 0.25;

/** What would probably reach a home that nothing has reached: a way that was not tried, somebody’s word about custody, or a voice. */
export function wouldReach(
	open: readonly WayOpen[],
	{
		numbers,
		unsaid,
		adults
	}: { readonly numbers: number; readonly unsaid: number; readonly adults: number }
): string {
	const best = open
		.filter((o) => !o.tried && (o.share ?? 1) >= worthTrying)
		.sort((a, b) => (b.share ?? 0) - (a.share ?? 0))[0];
	if (best) {
		const said =
			best.share === null
				? ''
				: `${best.messagesOnly ? ';' : ':'} about ${Math.round(best.share * 10)} of 10 would be read`;
		const what = best.messagesOnly
			? `a message by ${best.way}: they want no announcements by it`
			: `${best.way}, not tried yet`;
		return `${what}${said}`;
	}
	if (adults === 0 && unsaid > 0)
		return unsaid === 1
			? 'say whether their guardian has custody'
			: 'say which guardians have custody';
	if (numbers > 0) return 'a call';
	return 'a note home with the student: no number on file';
}

/** Copies that left for a home and were not read: "5 emails and 2 in the inbox arrived, none was read". */
export function unreadWords(
	copies: readonly { readonly way: Way; readonly arrived: number }[]
): string {
	const some = copies.filter((c) => c.arrived > 0);
	const all = some.reduce((n, c) => n + c.arrived, 0);
	const what = nameList(
		some.map(
			({ way, arrived }) => `${count(arrived)} ${arrived === 1 ? oneOf[way] : wayThings[way]}`
		)
	);
	return `${what} arrived, ${all === 1 ? 'and was not read' : 'none was read'}`;
}

const oneOf: Readonly<Record<Way, string>> = {
	email: 'email',
	text: 'text',
	inbox: 'in the inbox'
};
