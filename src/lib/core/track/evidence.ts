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
	/** A notification or receipt says it is at its place; for the inbox, the row is there. */
	| 'delivered'
	/** Refused for good, returned, or given up. */
	| 'failed'
	/** Taken back by a person, or past its end, before it left. */
	| 'stopped'
	/** The private link of this copy was requested. */
	| 'link-followed'
	/** The letter stood open in the person's inbox. */
	| 'opened'
	/** "I have seen this". */
	| 'acknowledged'
	| 'answered';

/** How much an event says about a person having read. */
export type Strength = 'none' | 'weak' | 'fair' | 'strong';

export interface Evidence {
	readonly kind: EventKind;
	/** Instant, ms since the epoch. */
	readonly at: number;
	/** Plain words: where it comes from and what it said. */
	readonly detail: string;
}

/** A link can be followed by a machine that guards a mailbox; a page that stood open in a browser, a tap and an answer cannot be had by accident. */
export const strengthOf: Readonly<Record<EventKind, Strength>> = {
	scheduled: 'none',
	accepted: 'none',
	deferred: 'none',
	delivered: 'none',
	failed: 'none',
	stopped: 'none',
	'link-followed': 'fair',
	opened: 'strong',
	acknowledged: 'strong',
	answered: 'strong'
};

export type DeliveryState =
	'held' | 'planned' | 'sent' | 'delivered' | 'failed' | 'read' | 'answered';

/** Each state with its place in the order in which a delivery goes forward. A failure outweighs a claim of arrival, a reader outweighs both. */
const rank: Readonly<Record<DeliveryState, number>> = {
	held: 0,
	planned: 0,
	sent: 1,
	delivered: 2,
	failed: 3,
	read: 4,
	answered: 5
};

/** The state one event by itself comes to, or null where it says nothing about it. */
export function stateAfter(kind: EventKind): DeliveryState | null {
	switch (kind) {
		case 'scheduled':
		case 'deferred':
			return null;
		case 'accepted':
			return 'sent';
		case 'delivered':
			return 'delivered';
		case 'failed':
		case 'stopped':
			return 'failed';
		case 'link-followed':
		case 'opened':
		case 'acknowledged':
			return 'read';
		case 'answered':
			return 'answered';
	}
}

/**
 * The state after one more event. Late, repeated and out-of-order events never take a delivery
 * back, since the result is the furthest state of all events, which does not depend on their order.
 */
export function advance(state: DeliveryState, kind: EventKind): DeliveryState {
	const next = stateAfter(kind);
	return next !== null && rank[next] > rank[state] ? next : state;
}

/** The state that a set of events comes to. `held` is what a delivery is before its hold ends; the caller knows the clock. */
export function stateOf(events: readonly Evidence[], before: 'held' | 'planned'): DeliveryState {
	return events.reduce<DeliveryState>((state, event) => advance(state, event.kind), before);
}

/** Whether a state means that a person has read. */
export const hasRead = (state: DeliveryState): boolean => state === 'read' || state === 'answered';
