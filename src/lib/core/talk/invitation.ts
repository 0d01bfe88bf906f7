import type { Asking, Slot } from './invitation-schema';
import type { Places } from './seating';

/** More come with nobody; a larger number in a text is a time, a room or a phone. */
export const mostTogether = 20;
/** A time in words: when it is, as `when` says instants (ms), and what else is said of it. */
export const slotWords = (
	{ at, words }: Pick<Slot, 'at' | 'words'>,
	when: (at: number) => string
): string => [at === null ? '' : when(at), words.trim()].filter(Boolean).join(', ');

/** The slot of those invitations that have one time for all. */
export const onlySlot = 0;

/** The places of an invitation, as they are given out. */
export const placesOf = ({ places, slots }: Pick<Asking, 'places' | 'slots'>): Places => ({
	overall: places,
	slots: new Map(slots.length === 0 ? [[onlySlot, null]] : slots.map((s) => [s.id, s.places]))
});

/** Whether anything has to be counted before somebody has their places. */
export const isLimited = ({ places, slots }: Pick<Asking, 'places' | 'slots'>): boolean =>
	places !== null || slots.some((s) => s.places !== null);

/** By which way something is said to it: on the family’s page, by text, by the link for anybody, put down by staff. */
export type ComingHow = 'page' | 'text' | 'open' | 'staff';

/** What somebody says to it. */
export interface Said {
	readonly comes: boolean;
	/** How many come; 0 where nobody does. */
	readonly people: number;
	/** How many of them are students; null where nobody has said. */
	readonly students: number | null;
	readonly slot: number;
}

/** Why what was said cannot be taken. */
export type NotTaken = 'no-slot' | 'no-people' | 'too-many';

/** What was said, as far as it fits the invitation: how many, at a time that is there; or why it does not. */
export function fitted(
	asking: Pick<Asking, 'slots' | 'most'>,
	{
		comes,
		adults,
		students,
		slot
	}: {
		readonly comes: boolean;
		/** Adults and students who come; students null where only one number was said. */
		readonly adults: number;
		readonly students: number | null;
		readonly slot: number | null;
	}
): { readonly ok: true; readonly said: Said } | { readonly ok: false; readonly why: NotTaken } {
	if (!comes)
		return { ok: true, said: { comes: false, people: 0, students: null, slot: onlySlot } };
	const people = adults + (students ?? 0);
	if (people < 1) return { ok: false, why: 'no-people' };
	if (people > asking.most) return { ok: false, why: 'too-many' };
	const there = asking.slots.length === 0 ? onlySlot : asking.slots.find((s) => s.id === slot)?.id;
	return there === undefined
		? { ok: false, why: 'no-slot' }
		: { ok: true, said: { comes: true, people, students, slot: there } };
}

/** Times of one length after each other from one instant to another (ms), numbered on from those that are there. */
export function slotsBetween(
	{
		from,
		to,
		minutes,
		places
	}: {
		readonly from: number;
		readonly to: number;
		readonly minutes: number;
		readonly places: number | null;
	},
	there: readonly Slot[] = []
): Slot[] {
	const length = minutes * 60_000;
	const first = there.reduce((most, s) => Math.max(most, s.id), 0) + 1;
	const n = length <= 0 ? 0 : Math.max(0, Math.min(200, Math.floor((to - from) / length)));
	return Array.from({ length: n }, (_, i) => ({
		id: first + i,
		at: from + i * length,
		words: '',
		places
	}));
}
