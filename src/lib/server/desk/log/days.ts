import { dayAfter, placeLocal } from '../../../core/time/local';

/** The instants between which a local day lies, half-open. */
export const zoneDay = (
	day: string,
	zone: string
): { readonly from: number; readonly until: number } => ({
	from: placeLocal(`${day}T00:00`, zone).at,
	until: placeLocal(`${dayAfter(day)}T00:00`, zone).at
});
