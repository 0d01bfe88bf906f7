/** A school of the made-up district. */
export interface SchoolPlan {
	readonly id: number;
	readonly name: string;
	readonly short: string;
	readonly level: 'elementary' | 'middle' | 'high';
	readonly grades: readonly string[];
	/** Students in each grade. */
	readonly perGrade: number;
}

/** How large a district is made. */
export interface DistrictSize {
	readonly name: 'demo' | 'district';
	/** The first three are those of the demo: the sample sign-ins and the past belong to them. */
	readonly schools: readonly SchoolPlan[];
	/** Schools that one family's children go to, by where they live. */
	readonly areas: readonly (readonly SchoolPlan[])[];
	readonly staff: number;
	/** Area codes to make numbers with; each has the hundred that belong to nobody, 555-0100 to 555-0199. */
	readonly areaCodes: readonly string[];
}

const grades = {
	elementary: ['K', '1', '2', '3', '4', '5'],
	middle: ['6', '7', '8'],
	high: ['9', '10', '11', '12']
} as const;
const levels = ['elementary', 'middle', 'high'] as const;
type Level = (typeof levels)[number];

const first = [
	['Heron Landing Elementary', 'Heron Landing'],
	['Brackwater Middle', 'Brackwater'],
	['Lightkeeper High', 'Lightkeeper']
] as const;

const demoSchools = (perGrade: Readonly<Record<Level, number>>): SchoolPlan[] =>
	levels.map((level, i) => ({
		id: i + 1,
		name: first[i]![0],
		short: first[i]![1],
		level,
		grades: grades[level],
		perGrade: perGrade[level]
	}));

const demo = demoSchools({ elementary: 69, middle: 69, high: 69 });

/** Three schools, some 900 students: what `npm run demo` makes. */
export const demoSize: DistrictSize = {
	name: 'demo',
	schools: demo,
	areas: [demo],
	staff: 90,
	areaCodes: [
		'207', '603', '802', '617', '508', '413', '978', '781', '401', '860', '203', '518', '607', '315',
		'716', '585'
	]
};

/** Islands and waters of our own, for the names of the further schools. */
const isles = [
	'Gannet', 'Spindrift', 'Cormorant', 'Driftwood', 'Saltmarsh', 'Petrel', 'Fogbell', 'Kittiwake',
	'Breaker', 'Sandpiper', 'Anchorage', 'Eelgrass', 'Osprey', 'Tern Rock', 'Harbor Seal', 'Whelk',
	'Barnacle', 'Longshore', 'Plover', 'Windlass', 'Mooring', 'Capstan', 'Puffin', 'Rockweed',
	'Sheltered Cove'
] as const;
const counts: Readonly<Record<Level, number>> = { elementary: 26, middle: 8, high: 6 };

function districtSchools(): SchoolPlan[] {
	const perGrade = { elementary: 74, middle: 240, high: 320 } as const;
	const schools = demoSchools(perGrade);
	for (const level of levels) {
		for (let i = 1; i < counts[level]; i += 1) {
			const isle = isles[(i - 1) % isles.length]!;
			const word = level[0]!.toUpperCase() + level.slice(1);
			schools.push({
				id: schools.length + 1,
				name: `${isle} ${word}`,
				short: level === 'elementary' ? isle : `${isle} ${word}`,
				level,
				grades: grades[level],
				perGrade: perGrade[level]
			});
		}
	}
	return schools;
}

const large = districtSchools();
const ofLevel = (level: Level) => large.filter((s) => s.level === level);

/** Forty schools, some 25,000 students: what `npm run demo -- --size district` makes. */
const districtSize: DistrictSize = {
	name: 'district',
	schools: large,
	areas: ofLevel('elementary').map((school, i) => [
		school,
		ofLevel('middle')[i % counts.middle]!,
		ofLevel('high')[i % counts.high]!
	]),
	staff: 1700,
	// Every code of three digits that could be one, but for those that end in 11 (common practice).
	areaCodes: Array.from({ length: 800 }, (_, i) => String(i + 200)).filter((c) => !c.endsWith('11'))
};

export const sizes = { demo: demoSize, district: districtSize } as const;
