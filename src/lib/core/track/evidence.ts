import type { MachineSign } from './visitor';

/**
 * What happened to one copy, kept as events and never rewritten. The state of a delivery is made
 * from them, whatever order they came in.
 */
export type EventKind =
	/** Planned, and waiting for its time or the end of its hold. */
	| 'scheduled'
	/** The provider took it: SMTP 250, SMPP ESME_ROK. */
	| 'accepted'
	/** Refused for now; it is tried again. */
	| 'deferred'
	/** Handed over, and no answer came: it may have arrived. It is tried again. */
	| 'unanswered'
	/** Handed over more than once without an answer: it may have arrived, and is not tried again by itself. */
	| 'unsure'
	/** A person has looked at one that may have arrived, and has it sent once more. */
	| 'once-more'
	/** A notification or receipt says it is at its place; for the inbox, the row is there. */
	| 'delivered'
	/** Refused for good, returned, or given up. */
	| 'failed'
	/** Taken back by a person, or past its end, before it left. */
	| 'stopped'
	/** Not used: when its turn came, its reader had read by a way before it. */
	| 'spared'
	/** Said about the copy, and settles nothing. */
	| 'noted'
	/** A picture in the letter was loaded. */
	| 'picture-loaded'
	/** The private link of this copy was requested. */
	| 'link-followed'
	/** A link in the words of this copy was requested. */
	| 'words-link-followed'
	/** A message disposition notification says that the letter was shown (RFC 8098). */
	| 'receipt'
	/** The letter stood open in the person's inbox. */
	| 'opened'
	/** The note that goes with the letter was heard or seen to its end. */
	| 'played'
	/** "I have seen this". */
	| 'acknowledged'
	| 'answered';

/** How much an event says about a person having read. */
export type Strength = 'none' | 'weak' | 'fair' | 'strong';
const strengths: readonly Strength[] = ['none', 'weak', 'fair', 'strong'];

/** Who or what an event was learned from. */
export type Source =
	| 'plan'
	| 'courier'
	| 'mail server'
	| 'text exchange'
	| 'notification'
	| 'text receipt'
	| 'picture'
	| 'link'
	| 'inbox'
	| 'read receipt'
	| 'answer by mail'
	| 'answer by text'
	| 'by hand';

export interface Evidence {
	readonly kind: EventKind;
	/** Instant, ms since the epoch. */
	readonly at: number;
	readonly source: Source;
	/** As far as the event itself shows; see {@link judged} for what the other events make of it. */
	readonly strength: Strength;
	/** Plain words of ours: what happened. */
	readonly detail: string;
	/** What the other side said, as it came: a reply, a status, an id. */
	readonly said?: string | null;
	/** After how many tries it was given up. */
	readonly tries?: number | null;
	/** What speaks for a machine rather than a reader. */
	readonly sign?: MachineSign | null;
}

/** What of an event decides where its copy stands. */
export type Weighed = Pick<Evidence, 'kind' | 'at' | 'strength'>;

/**
 * The most an event of a kind can say. A picture may be loaded by a mail system on arrival, a link
 * followed by a machine that guards a mailbox; a page that stood open in a browser, a tap, a read
 * receipt and an answer cannot be had by accident.
 */
export const strengthOf: Readonly<Record<EventKind, Strength>> = {
	scheduled: 'none',
	accepted: 'none',
	deferred: 'none',
	unanswered: 'none',
	unsure: 'none',
	'once-more': 'none',
	delivered: 'none',
	failed: 'none',
	stopped: 'none',
	spared: 'none',
	noted: 'none',
	'picture-loaded': 'weak',
	'link-followed': 'fair',
	'words-link-followed': 'fair',
	receipt: 'strong',
	opened: 'strong',
	played: 'strong',
	acknowledged: 'strong',
	answered: 'strong'
};

const byStrength = (a: Strength, b: Strength): number =>
	strengths.indexOf(a) - strengths.indexOf(b);
const stronger = (a: Strength, b: Strength): Strength => (byStrength(a, b) >= 0 ? a : b);

/**
 * So soon after a copy has left or arrived, what requests its link is a machine that looks letters
 * over on arrival rather than a reader, ms (common practice; no standard says it).
 */
export const hastyMs = 10_000;

/** Whether a copy has left for certain by an event: where nobody could write its leaving down any more (a kill), it has left when its arrival is said at the latest. */
const hasLeft = (e: Weighed): boolean =>
	e.kind === 'accepted' || e.kind === 'unsure' || e.kind === 'delivered';

/** Whether a copy may have left by an event: from then on somebody can follow its link. */
const mayHaveLeft = (e: Weighed): boolean => hasLeft(e) || e.kind === 'unanswered';

/** An event with what all events of its copy make of it. */
export type Judged<E extends Weighed = Evidence> = E & {
	/** Whether it came so soon that it says less than its kind could. */
	readonly hasty: boolean;
};

/**
 * The events of one copy in the order of their time, each with its strength in the light of the
 * others: a link requested, or a page opened, within seconds of the letter's leaving, or before anything is known of
 * its leaving, is weak evidence. More events can only lift that doubt, never raise it.
 */
export function judged<E extends Weighed>(events: readonly E[]): Judged<E>[] {
	const left = events.reduce(
		(first, e) => (mayHaveLeft(e) ? Math.min(first, e.at) : first),
		Infinity
	);
	const hasty = (at: number) => left === Infinity || at <= left + hastyMs;
	return events
		.map((e): Judged<E> => {
			// A program that opens pages to look at them shows them to itself as well.
			const requested =
				e.kind === 'link-followed' || e.kind === 'words-link-followed' || e.kind === 'opened';
			if (requested && byStrength(e.strength, 'weak') > 0 && hasty(e.at)) {
				return { ...e, strength: 'weak', hasty: true };
			}
			return { ...e, hasty: false };
		})
		.sort((a, b) => a.at - b.at);
}

/** The states in the order in which lists and accounts name them: what was reached first. */
export const deliveryStates = [
	'answered',
	'read',
	'delivered',
	'sent',
	'failed',
	'spared',
	'planned',
	'held'
] as const;
export type DeliveryState = (typeof deliveryStates)[number];

/** Each state with its place in the order in which a delivery goes forward. A failure outweighs a claim of arrival, a reader outweighs both. */
const rank: Readonly<Record<DeliveryState, number>> = {
	held: 0,
	planned: 0,
	spared: 1,
	sent: 2,
	delivered: 3,
	failed: 4,
	read: 5,
	answered: 6
};

/** The state one event by itself comes to, or null where it says nothing about it. What only weakly speaks for a reader shows no more than that the letter arrived. */
function stateAfter({ kind, strength }: Pick<Evidence, 'kind' | 'strength'>): DeliveryState | null {
	switch (kind) {
		case 'scheduled':
		case 'deferred':
		case 'unanswered':
		case 'once-more':
		case 'noted':
			return null;
		case 'accepted':
		case 'unsure':
			return 'sent';
		case 'delivered':
			return 'delivered';
		case 'failed':
		case 'stopped':
			return 'failed';
		case 'spared':
			return 'spared';
		case 'picture-loaded':
		case 'link-followed':
		case 'words-link-followed':
		case 'receipt':
		case 'opened':
		case 'played':
		case 'acknowledged':
			return byStrength(strength, 'fair') >= 0 ? 'read' : 'delivered';
		// What may be a machine's answer shows no more than that the letter arrived.
		case 'answered':
			return byStrength(strength, 'fair') >= 0 ? 'answered' : 'delivered';
	}
}

/** Where a delivery stands by all its events. */
export interface Standing {
	readonly state: DeliveryState;
	/** When it came to this state (instant, ms); null where no event says so. */
	readonly at: number | null;
	/** The strongest evidence of reading. */
	readonly strength: Strength;
	/** When it was handed over, and when it was first read (instants, ms); null where it was not. */
	readonly leftAt: number | null;
	readonly readAt: number | null;
}

/**
 * Where a set of events leaves a delivery: at the furthest state that any of them says, and so
 * independent of their order. Late and repeated events never take it back. `before` is what it is
 * while nothing has happened; the caller knows the clock.
 */
export function standingOf(events: readonly Weighed[], before: 'held' | 'planned'): Standing {
	let state: DeliveryState = before;
	let at: number | null = null;
	let strength: Strength = 'none';
	let leftAt: number | null = null;
	let readAt: number | null = null;
	// What was not sure is open again once a person has had it sent once more.
	const again = events.reduce(
		(last, e) => (e.kind === 'once-more' ? Math.max(last, e.at) : last),
		-Infinity
	);
	for (const event of judged(events)) {
		if (event.kind === 'unsure' && event.at <= again) continue;
		strength = stronger(strength, event.strength);
		if (hasLeft(event)) leftAt ??= event.at;
		const next = stateAfter(event);
		if (next === null) continue;
		if (hasRead(next)) readAt ??= event.at;
		if (rank[next] > rank[state]) {
			state = next;
			at = event.at;
		}
	}
	return { state, at, strength, leftAt, readAt };
}

/** Whether a state means that a person has read. */
const hasRead = (state: DeliveryState): boolean => state === 'read' || state === 'answered';
