/** The hold: the short time between "send" and leaving (NEEDS of the trade: 5 minutes by default, 30 at most, none only by choice). */
export const holdMinutes = { default: 5, most: 30 } as const;

/** When a dispatch sent at `now` leaves. Instants in ms. Throws a RangeError for a hold outside 0 to 30 whole minutes: the form has checked it before. */
export function leavesAt(now: number, minutes: number): number {
	if (!Number.isInteger(minutes) || minutes < 0 || minutes > holdMinutes.most) {
		throw new RangeError(`A hold is 0 to ${holdMinutes.most} whole minutes, not ${minutes}.`);
	}
	return now + minutes * 60_000;
}
