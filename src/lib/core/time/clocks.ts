/** The clock of the district, and those of schools that keep to another. */
export interface Clocks {
	/** IANA name of the district's zone. */
	readonly zone: string;
	/** Zones of the schools that have their own, by the school's id. */
	readonly schools: ReadonlyMap<number, string>;
}

/** The clocks as one plain value: the same of both means that every clock shows the same. */
export const clocksMark = ({ zone, schools }: Clocks): readonly unknown[] => [
	zone,
	[...schools].sort(([a], [b]) => a - b)
];

/** The zone of a school's clock; the district's where it has none of its own, or `schoolId` is null. */
export const zoneOf = ({ zone, schools }: Clocks, schoolId: number | null): string =>
	(schoolId === null ? undefined : schools.get(schoolId)) ?? zone;

/** The zone for what concerns several schools: the one that they share, else the district's. */
export function sharedZone(clocks: Clocks, schoolIds: readonly number[]): string {
	if (clocks.schools.size === 0 || schoolIds.length === 0) return clocks.zone;
	const first = zoneOf(clocks, schoolIds[0]!);
	return schoolIds.every((id) => zoneOf(clocks, id) === first) ? first : clocks.zone;
}
