import type { Departure } from '../../../core/plan/times';
import { stepTimes, turnsInUse } from '../../../core/plan/turns';
import { zoneOf } from '../../../core/time/clocks';
import type { Moment } from '../../../core/time/timing';
import type { Times } from '../../db/calendar';
import type { Sending } from './sheet';

/** The instant at which the event of a dispatch begins, by its round; null where it is no reminder. For SQL that reads `dispatch`. */
export const eventOfDispatch = `(SELECT starts_at FROM round JOIN school_event ON school_event.id = event_id WHERE round.id = dispatch.round_id)`;

/** When a sheet leaves at one of its moments, and what binds its copies; `eventAt` is when the event begins that it reminds of (ms). */
export function departureOf(
	{
		timing,
		turns,
		ways
	}: Pick<Sending, 'turns' | 'ways'> & {
		readonly timing: Pick<Sending['timing'], 'urgent' | 'clock'>;
	},
	moment: Pick<Moment, 'at' | 'endsAt'>,
	times: Pick<Times, 'clocks' | 'pace'>,
	eventAt: number | null
): Departure {
	return {
		leavesAt: moment.at,
		turnsAt: stepTimes(
			moment.at,
			turnsInUse(turns, ways),
			zoneOf(times.clocks, timing.clock)
		).slice(1),
		endsAt: moment.endsAt,
		// What is said after an event is of use for as long as anything else.
		eventAt: eventAt !== null && eventAt > moment.at ? eventAt : null,
		urgent: timing.urgent,
		pace: times.pace,
		// Another school comes first at another minute.
		turn: Math.floor(moment.at / 60_000)
	};
}
