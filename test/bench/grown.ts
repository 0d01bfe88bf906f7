import { sizes, type DistrictSize } from '../../demo/sizes';

/** The large district so many times over: a half has half of the students in each grade, twice has each school twice. */
export function grown(times: number): DistrictSize {
	const base = sizes.district;
	const whole = Math.max(1, Math.round(times));
	const share = times / whole;
	const again = Array.from({ length: whole }, (_, k) => k);
	const schools = again.map((k) =>
		base.schools.map((school) => ({
			...school,
			id: school.id + k * base.schools.length,
			name: k === 0 ? school.name : `${school.name} ${k + 1}`,
			short: k === 0 ? school.short : `${school.short} ${k + 1}`,
			perGrade: Math.round(school.perGrade * share)
		}))
	);
	return {
		...base,
		schools: schools.flat(),
		areas: again.flatMap((k) =>
			base.areas.map((area) =>
				area.map(({ id }) => schools[k]!.find((s) => s.id === id + k * base.schools.length)!)
			)
		),
		staff: Math.round(base.staff * times),
		// Longer than a number has places for them, so that no two families share one.
		areaCodes: again.flatMap((k) => base.areaCodes.map((code) => (k === 0 ? code : `${code}${k}`)))
	};
}
