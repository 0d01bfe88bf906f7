import { z } from 'zod';
import { deliveryStates, type DeliveryState } from '../../../core/track/evidence';
import { ways } from '../../../core/roster/way';

/** The filter of a list of copies as it stands in an address; `extra` are what the list can show beside states. One that makes no sense shows everything rather than nothing. */
export function copyFilter<Extra extends string>(...extra: readonly Extra[]) {
	const states: readonly ('all' | Extra | DeliveryState)[] = ['all', ...extra, ...deliveryStates];
	return z.object({
		way: z.enum(['all', ...ways]).catch('all'),
		state: z
			.string()
			.catch('all')
			.transform((wanted) => states.find((s) => s === wanted) ?? 'all'),
		page: z.coerce.number().int().min(1).max(100_000).catch(1)
	});
}
