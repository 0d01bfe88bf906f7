/** The hold: the short time between "send" and leaving (NEEDS of the trade: 5 minutes by default, 30 at most, none only by choice). */
export const holdMinutes = { default: 5, most: 30 } as const;

/** Lead time that is suggested before something leaves at a chosen time (common practice). */
export const leadMinutes = 30;

/** Whether a hold is one: 0 to 30 whole minutes. */
export const isHold = (minutes: number): boolean =>
	Number.isInteger(minutes) && minutes >= 0 && minutes <= holdMinutes.most;

/** When a dispatch sent at `now` leaves. Instants in ms. Throws a RangeError for a hold outside 0 to 30 whole minutes: the form has checked it before. */
export function leavesAt(now: number, minutes: number): number {
	if (!isHold(minutes)) {
		throw new RangeError(`A hold is 0 to ${holdMinutes.most} whole minutes, not ${minutes}.`);
	}
	return now + minutes * 60_000;
}

/** The same while the hold is still being chosen: what is none counts as the nearest that is. */
export const wouldLeaveAt = (now: number, minutes: number): number =>
	leavesAt(now, Math.round(Math.min(Math.max(minutes || 0, 0), holdMinutes.most)));
