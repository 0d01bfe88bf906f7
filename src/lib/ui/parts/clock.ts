import { page } from '$app/state';
import type { ClockStyle } from '$lib/core/copy/clock-style';
import * as zone from '$lib/core/time/zone';

/** Times as whoever is signed in reads them: the district says how a time of day is written. */
export const clockStyle = (): ClockStyle => page.data.frame?.clock ?? '12';

/** "7:05 am", or "07:05". */
export const clockTime = (at: number, of: string): string => zone.clockTime(at, of, clockStyle());
/** "Tue Mar 9, 7:05 am"; seen from `now`, with the year where it is another. */
export const dayTime = (at: number, of: string, now?: number): string =>
	zone.dayTime(at, of, now, clockStyle());
/** "today 7:05 am", "yesterday 7:05 am" or "Mon Mar 8, 7:05 am", seen from `now`. */
export const nearTime = (at: number, now: number, of: string): string =>
	zone.nearTime(at, now, of, clockStyle());
