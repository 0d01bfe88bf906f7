/**
 * How far a copy is, as conditions for SQL: each question has one spelling, whoever asks it. They
 * name the table by `delivery`, or by the alias given to the function of the same name.
 */

/** Has not left the house: it waits for its time, for its provider, or in the courier's hands. */
const waitsOf = (delivery: string) => `${delivery}.state IN ('held', 'planned')`;
export const waits = waitsOf('delivery');

/** Has been handed to its provider, whatever came of it: not one that waits, nor one that turned out not to be needed. */
export const hasLeftOf = (delivery: string) =>
	`${delivery}.state NOT IN ('held', 'planned', 'spared')`;
export const hasLeft = hasLeftOf('delivery');

/** Has been tried, is in the courier's hands, or needs no trying any more: its dispatch can no longer be changed as a whole. */
export const touched = `(delivery.state NOT IN ('held', 'planned') OR delivery.claimed_by IS NOT NULL OR delivery.attempts > 0)`;

/** Waits in nobody's hands: it can be taken in hand, and it can be stopped. */
export const free = `${waits} AND delivery.claimed_by IS NULL`;

/** Read, or answered, which takes reading. */
export const isReadOf = (delivery: string) => `${delivery}.state IN ('read', 'answered')`;
export const isRead = isReadOf('delivery');

/** Left, and nothing has come back that speaks against it. */
export const wentWell = `delivery.state IN ('sent', 'delivered', 'read', 'answered')`;

/** Handed over more than once without an answer, and nothing has been heard since: it may have arrived. */
export const isUnsure = `delivery.unanswered > 1 AND delivery.state = 'sent'`;

/** A dispatch that has a copy that is {@link touched}. */
export const isTouched = `EXISTS (SELECT 1 FROM delivery WHERE delivery.dispatch_id = dispatch.id AND ${touched})`;

/** A dispatch that goes by no way, and stands on boards alone: it has no copies, and nobody was written to. */
export const onlyStands = `dispatch.ways = '[]'`;
