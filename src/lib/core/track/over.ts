import { tellDays } from './expect/past-copy';

/** What of a dispatch tells when it is over. */
export interface Ending {
	readonly state: 'draft' | 'scheduled' | 'sent';
	/** Its end time (instant, ms); null where it never goes stale. */
	readonly endsAt: number | null;
	/** When its last copy left (instant, ms); null while copies are still to leave. */
	readonly sentAt: number | null;
}

/**
 * When a dispatch is over (instant, ms): at its end time, else when its last copy has been out for so
 * long that most of who will read it have. Null while copies are still to leave.
 */
export const overAt = ({ state, endsAt, sentAt }: Ending): number | null =>
	state === 'sent' && sentAt !== null ? (endsAt ?? sentAt + tellDays * 86_400_000) : null;

/** Whether a dispatch is over at an instant. */
export const isOver = (dispatch: Ending, now: number): boolean => {
	const at = overAt(dispatch);
	return at !== null && at <= now;
};
