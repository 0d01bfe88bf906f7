import { expect } from 'chai';
import {
	audienceSchema,
	comingStates,
	type Audience,
	type AudienceLine,
	type Condition,
	type MeantKind,
	type StudentSet
} from '../../../../src/lib/core/audience/audience';
import { readSentence } from '../../../../src/lib/core/audience/read-sentence';
import { NotFound, type NameFinder } from '../../../../src/lib/core/audience/sentence-names';
import {
	audienceWords,
	type Name,
	type NameBook
} from '../../../../src/lib/core/audience/sentence';
import type { MarkTest } from '../../../../src/lib/core/roster/marker';
import type { Random } from '../../../../demo/random';
import { draws, often } from '../../random';

/** Names that try to be taken for something else. */
const odd = [
	'Homeroom 2-A',
	'Diesel and Electrics-A',
	'"Quoted"',
	'Art, Craft; Design (new)',
	'with',
	'in term',
	'who read',
	'by hand',
	'حورية البحر',
	'Ünïcødé  two  spaces',
	'#12',
	'👩‍🚀 Crew',
	'“curly”',
	'all of (x)',
	'no section yet',
	'grade 7',
	'Tide\nScience',
	'but not',
	"O'Leary-Smith",
	'.'
];
const nameFor = (kind: string, id: number): Name => ({
	name: `${odd[id % odd.length]!}${id >= odd.length ? ` ${id}` : ''}`,
	apart:
		id % 3 === 0
			? [`#${id}`]
			: id % 7 === 0
				? ['Fall', kind]
				: id % 11 === 0
					? ['Heron, North (new)', '"x"']
					: []
});
/** Of each kind the ids up to this are there. */
const there = 60;
const book: NameBook = {
	nameOf: (kind, id) => (id <= there ? nameFor(kind, id) : undefined),
	language: (tag) => ({ es: 'Spanish', 'pt-BR': 'Brazilian Portuguese', en: 'English' })[tag]!
};
const finder: NameFinder = {
	find(kind, name, apart) {
		for (let id = 1; id <= there; id += 1) {
			const own = nameFor(kind, id);
			if (own.name === name && own.apart.join('|') === apart.join('|')) return id;
		}
		throw new NotFound(`There is no ${kind} "${name}".`);
	},
	isStudent: () => true,
	isWord: (kind, word) => kind !== 'grade' || ['K', '1', '7', '8', '12'].includes(word),
	languageTag: (name) => ({ Spanish: 'es', 'Brazilian Portuguese': 'pt-BR', English: 'en' })[name]
};

function missing(why: string): never {
	throw new NotFound(why);
}

function drawSet(r: Random, depth: number): StudentSet {
	const ids = () => Array.from({ length: r.int(0, 4) }, () => r.int(1, there + 4));
	if (depth > 0 && r.chance(0.5)) {
		return r.chance(0.35)
			? { kind: 'except', from: drawSet(r, depth - 1), minus: drawSet(r, depth - 1) }
			: {
					kind: r.pick(['any', 'all'] as const),
					of: Array.from({ length: r.int(0, 3) }, () => drawSet(r, depth - 1))
				};
	}
	const kind = r.pick([
		'sections',
		'courses',
		'terms',
		'schools',
		'groups',
		'students',
		'uncovered',
		'grades'
	] as const);
	if (kind === 'grades')
		return {
			kind,
			levels: r
				.shuffle(['K', '1', '12', 'pre, K', 'Kindergarten in the morning (half a day)'])
				.slice(0, r.int(0, 3))
		};
	if (kind === 'courses') return { kind, ids: ids(), termId: r.int(1, there + 2) };
	return { kind, ids: ids() };
}

function drawLine(r: Random): AudienceLine {
	const verb = r.pick(['and', 'but-not'] as const);
	const conditions: Condition[] = [
		{ kind: 'language', tags: ['es', 'pt-BR'] },
		{ kind: 'email', works: r.chance(0.5) },
		{ kind: 'text', optedIn: r.chance(0.5) },
		{ kind: 'household', shared: r.chance(0.5) },
		{ kind: 'outcome', dispatchId: r.int(1, there + 2), read: r.chance(0.5) },
		{ kind: 'coming', dispatchId: r.int(1, there + 2), is: r.pick(comingStates) },
		{
			kind: 'marker',
			markerId: r.int(1, there + 2),
			is: r.pick<MarkTest>([
				{ test: 'has' },
				{ test: 'lacks' },
				{ test: 'is', value: r.pick(['red', 'a day before "noon", in the marker', ' x ']) },
				{ test: 'before', day: '2027-06-15' },
				{ test: 'from', day: '2028-02-29' }
			])
		}
	];
	const only = r.shuffle(conditions).slice(0, r.int(0, 3));
	const ids = Array.from({ length: r.int(0, 4) }, () => r.int(1, there + 4));
	switch (r.int(0, 5)) {
		case 0:
			return {
				verb,
				people: {
					kind: 'staff',
					roles: r
						.shuffle(['teacher', 'in and out', 'at sea', '"head" of the, well, harbor crew'])
						.slice(0, r.int(0, 2)),
					schoolIds: r.chance(0.5) ? [1, 2] : []
				},
				only
			};
		case 1:
			return { verb, people: { kind: 'named', ids }, only };
		case 2:
			return { verb, people: { kind: 'list', keptId: r.int(1, there + 2) }, only };
		default: {
			const kinds: MeantKind[] = [
				{ kind: 'students' },
				{ kind: 'guardians' },
				{ kind: 'all-guardians' },
				{ kind: 'emergency' },
				{ kind: 'other-contacts' },
				{ kind: 'section-staff' },
				{ kind: 'relation', relation: r.pick(['aunt', 'friend of the family', 'mother, step']) }
			];
			return { verb, to: r.shuffle(kinds).slice(0, r.int(1, 4)), of: drawSet(r, 3), only };
		}
	}
}

/** The sentence does not say in which order students stand among those meant. */
const plain = (lines: readonly AudienceLine[]) =>
	lines.map((l) =>
		'to' in l
			? {
					...l,
					to: [
						...l.to.filter((t) => t.kind === 'students'),
						...l.to.filter((t) => t.kind !== 'students')
					]
				}
			: l
	);

describe('the sentence of an audience', () => {
	it('is read back as the same audience, over 2,000 random ones with names that look like grammar', () => {
		const r = draws(77);
		for (let i = 0; i < often(2000); i += 1) {
			const hand = r.shuffle([1, 5, 9, 14, there + 3]).slice(0, r.int(0, 4));
			const audience: Audience = {
				version: 2,
				lines: Array.from({ length: r.int(0, 4) }, () => drawLine(r)),
				byHand: hand.map((personId, n) => ({ personId, way: n % 2 ? 'in' : 'out', by: 'x', at: 0 }))
			};
			expect(audienceSchema.safeParse(audience).success).to.equal(true);
			const words = audienceWords(audience, book);
			const read = readSentence(words, finder);
			if (!read.ok) throw new Error(`${read.why}\nat ${read.at} of: ${words}`);
			expect(plain(read.audience.lines), words).to.deep.equal(plain(audience.lines));
			expect([read.audience.handIn, read.audience.handOut], words).to.deep.equal(
				(['in', 'out'] as const).map((way) =>
					audience.byHand.filter((h) => h.way === way).map((h) => h.personId)
				)
			);
		}
	});

	it('is read in any capitals, with any white space, with a full stop', () => {
		const read = readSentence(
			'  GUARDIANS and teachers of students\n in Homeroom 2-A\u00a020 , who READ Spanish.',
			{ ...finder, find: (_, name) => (name === 'Homeroom 2-A 20' ? 20 : missing('no')) }
		);
		expect(read.ok && read.audience.lines).to.deep.equal([
			{
				verb: 'and',
				to: [{ kind: 'guardians' }, { kind: 'section-staff' }],
				of: { kind: 'sections', ids: [20] },
				only: [{ kind: 'language', tags: ['es'] }]
			}
		]);
	});

	for (const [text, at, why] of [
		['', 0, /^The sentence is empty/],
		['Everybody', 0, /^Here stands who is meant/],
		['Guardians in Homeroom 2-A', 10, /"of students" is wanted, before "in Homeroom 2-A"/],
		['Guardians of students in Kelp', 25, /^There is no section "Kelp"/],
		['Guardians of students in grade 7; 8', 32, /^Here a comma, or the end, is wanted/],
		['Guardians of students in any of (grade 7; grade 8', 49, /"\)" is wanted, at the end/],
		['Guardians of students in (grade 7) except grade 8', 42, /"\(" is wanted/],
		['Guardians of students in grade 7, who are nice', 38, /^After "who" comes/],
		['Guardians of students in grade 7, who read Elvish', 42, /^"Elvish" is no language/],
		['Guardians of students in grade 7, or teachers', 34, /^There is no grade "or teachers" here/],
		['Guardians of students in "Homeroom', 25, /quotes are never closed/],
		['Guardians of students in course Homeroom 2-A', 44, /"in" is wanted, at the end/]
	] as const) {
		it(`says where and why ${JSON.stringify(text)} cannot be read`, () => {
			const read = readSentence(text, {
				...finder,
				find: (kind, name) =>
					name === 'Homeroom 2-A' ? 1 : missing(`There is no ${kind} "${name}".`)
			});
			expect(read.ok).to.equal(false);
			if (read.ok) return;
			expect(read.why).to.match(why);
			expect(read.at).to.equal(at);
		});
	}

	it('is not read deeper than an audience may be nested, and says so instead of failing', () => {
		const deep = `Guardians of students in ${'any of ('.repeat(5000)}`;
		const read = readSentence(deep, finder);
		expect(!read.ok && read.why).to.match(/^This is nested deeper than an audience may be/);
	});
});
