import { z } from 'zod';
import type { Places } from './seating';

/** More come with nobody; a larger number in a text is a time, a room or a phone. */
export const mostTogether = 20;
const placesSchema = z.number().int().min(1).max(100_000).nullable().default(null);

/** One of the times that can be chosen from. */
const slotSchema = z.object({
	/** Its number in this invitation: it stays when others are taken out. */
	id: z.number().int().min(1).max(100_000),
	/** When it begins (instant, ms); null where only words say it. */
	at: z.number().nullable().default(null),
	words: z.string().max(120, 'What is said of a time has 120 characters at most.').default(''),
	/** How many can come to it; null for as many as come. */
	places: placesSchema
});
export type Slot = z.infer<typeof slotSchema>;

/** A time in words: when it is, as `when` says instants (ms), and what else is said of it. */
export const slotWords = (
	{ at, words }: Pick<Slot, 'at' | 'words'>,
	when: (at: number) => string
): string => [at === null ? '' : when(at), words.trim()].filter(Boolean).join(', ');

/** What is asked: "coming?", how many, to which time, until when. */
const askingSchema = z.object({
	kind: z.literal('asks'),
	/** Until when it can be answered (instant, ms); null while nobody has said it, which the standing check says. */
	until: z.number().nullable().default(null),
	/** How many can come over all; null for as many as come. */
	places: placesSchema,
	/** Times to choose from; none where there is one for all. */
	slots: z.array(slotSchema).max(200, 'There are 200 times to choose from at most.').default([]),
	/** How many can come together. */
	most: z.number().int().min(1).max(mostTogether).default(10),
	/** Whether anybody with its link can say that they come, not only those who are written to. */
	anybody: z.boolean().default(false)
});
export type Asking = z.infer<typeof askingSchema>;

/** What a sheet asks its readers: of its own, or about an earlier dispatch that asked, as a reminder does; null where it asks nothing. */
export const invitationSchema = z
	.discriminatedUnion('kind', [
		askingSchema,
		z.object({ kind: z.literal('about'), dispatchId: z.number().int().positive() })
	])
	.nullable()
	.default(null);
export type Invitation = z.infer<typeof invitationSchema>;

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
