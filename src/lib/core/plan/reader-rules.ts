import type { QuietHours, QuietRules } from '../time/quiet';
import type { Way } from '../roster/way';

/** What the district and its schools have settled about quiet. */
export interface QuietBook {
	/** The zone of the clock by which people of some schools live. */
	zone(schoolIds: readonly number[]): string;
	/** All the hours that hold for a way at some schools. */
	hours(way: Way, schoolIds: readonly number[]): readonly QuietHours[];
	/** Whether nothing ordinary goes out on a day (ISO date), for people of these schools. */
	closed(date: string, schoolIds: readonly number[]): boolean;
}

/** Whom something is for, as far as quiet asks: by which way, of which schools, and the reader's own zone and hours; null where they have none of their own. */
export interface QuietReader {
	readonly way: Way;
	readonly schoolIds: readonly number[];
	readonly zone: string | null;
	/** Minutes after local midnight. */
	readonly quietFrom: number | null;
	readonly quietTo: number | null;
}

/** What one reader's copies keep to: the hours and days of the schools, and their own, by their own clock. */
export const readerRules = (
	book: QuietBook,
	{ way, schoolIds, zone, quietFrom, quietTo }: QuietReader
): QuietRules => ({
	zone: zone ?? book.zone(schoolIds),
	hours: [
		...book.hours(way, schoolIds),
		...(quietFrom === null || quietTo === null
			? []
			: [{ fromMinute: quietFrom, toMinute: quietTo }])
	],
	closed: (date) => book.closed(date, schoolIds)
});
