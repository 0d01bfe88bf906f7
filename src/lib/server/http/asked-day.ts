import { DateTime } from 'luxon';
import { z } from 'zod';

const daySchema = z.iso.date().optional().catch(undefined);

/** The day that an address asks for by `day` (ISO date), as the instant it begins in a zone, ms; undefined where it asks for none, or for what is no day. */
export function askedDay(url: URL, zone: string): number | undefined {
	const day = daySchema.parse(url.searchParams.get('day') ?? undefined);
	return day ? DateTime.fromISO(day, { zone }).toMillis() : undefined;
}
