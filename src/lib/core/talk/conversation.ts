/** Somebody should answer; later, at a time; nothing more to do. */
export type ConversationState = 'waiting' | 'aside' | 'settled';

/** How a conversation stands. */
export interface Standing {
	readonly state: ConversationState;
	/** Until when it is put aside (instant, ms); null unless it is. */
	readonly asideUntil: number | null;
	/** Since when an answer of the family waits (instant, ms); null where none does. */
	readonly since: number | null;
	/** Whether what came last has been looked at by whoever answers here. */
	readonly unread: boolean;
}

/** Nothing more is to be done: it was answered, or somebody has said so. So it stands before anything was said, too. */
export const settled: Standing = {
	state: 'settled',
	asideUntil: null,
	since: null,
	unread: false
};

/** How it stands at an instant: what was put aside waits again once its time has come. */
export const stateAt = ({ state, asideUntil }: Standing, at: number): ConversationState =>
	state === 'aside' && asideUntil !== null && asideUntil <= at ? 'waiting' : state;

/** The family has written: it waits, whatever it was; the first that nobody has answered says since when. */
export const familyWrote = (before: Standing, at: number): Standing => ({
	state: 'waiting',
	asideUntil: null,
	since: before.since ?? at,
	unread: true
});

/** Something has come that asks for no answer, or may be a machine's: kept, and nobody waits for it. */
export const onlyKept = (before: Standing): Standing => ({ ...before, unread: true });

/** Why something cannot be put aside until a time. */
export type AsideFault = 'past' | 'too-far';

/** So far ahead it is forgotten rather than put aside, days. */
const farthestDays = 180;

/** Puts it aside until a time; what waits since when stays. */
export function putAside(
	before: Standing,
	until: number,
	now: number
):
	| { readonly ok: true; readonly standing: Standing }
	| { readonly ok: false; readonly why: AsideFault } {
	if (until <= now) return { ok: false, why: 'past' };
	if (until > now + farthestDays * 86_400_000) return { ok: false, why: 'too-far' };
	return {
		ok: true,
		standing: { ...before, state: 'aside', asideUntil: until, unread: false }
	};
}
