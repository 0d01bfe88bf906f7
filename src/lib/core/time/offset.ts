import { z } from 'zod';
import { floating, localOf, placeLocal, unfloating } from './local';

export const offsetUnits = ['minutes', 'hours', 'days', 'weeks'] as const;

/** When a reminder leaves, seen from an event: "3 hours before it starts". */
export const offsetSchema = z.object({
	amount: z.number().int().min(0).max(10_000),
	unit: z.enum(offsetUnits),
	side: z.enum(['before', 'after']),
	of: z.enum(['start', 'end'])
});
export type Offset = z.infer<typeof offsetSchema>;

const exactMs = { minutes: 60_000, hours: 3_600_000 } as const;

/**
 * The instant at an offset from another. RFC 5545 section 3.3.6: hours and minutes are exact, days
 * and weeks are nominal, so that "one day before 6 pm" is 6 pm also across a change of the clock.
 */
export function atOffset(at: number, { amount, unit, side }: Offset, zone: string): number {
	const signed = side === 'before' ? -amount : amount;
	if (unit === 'minutes' || unit === 'hours') return at + signed * exactMs[unit];
	const wall = floating(localOf(at, zone)).plus({ [unit]: signed });
	// Seconds are not kept on the wall; an event has none.
	return placeLocal(unfloating(wall), zone).at;
}

/** "3 hours before it starts", "when it starts". */
export function offsetWords({ amount, unit, side, of }: Offset): string {
	const verb = of === 'start' ? 'it starts' : 'it ends';
	if (amount === 0) return `when ${verb}`;
	return `${amount} ${amount === 1 ? unit.slice(0, -1) : unit} ${side} ${verb}`;
}
