import { z } from 'zod';
import { reasonText } from '../../core/audience/reasons';
import { audienceWords, lineWords } from '../../core/audience/sentence';
import { lookupLanguage } from '../../core/copy/language';
import { nameList } from '../../core/copy/names';
import { writeCsv } from '../../core/format/csv';
import { fold } from '../../core/format/fold';
import { writeVcards } from '../../core/format/vcard';
import type { Way } from '../../core/plan/manifest';
import { tallyOf, type Tally } from '../../core/plan/tally';
import { dayTime } from '../../core/time/zone';
import { nameOf, relationPhrase } from '../../core/roster/relation';
import type { User } from '../access/sessions';
import { nameOfLanguage } from '../../core/copy/language';
import { nameBook } from '../db/names';
import type { Db } from '../db/open';
import { planSheet, type Planned } from './plan-sheet';
import type { Sending } from './sheet';
import { partOf } from './tally';

/** One person of the manifest, with everything the plan knows about them. */
export interface ManifestPerson {
	readonly personId: number;
	readonly name: string;
	readonly givenName: string;
	readonly familyName: string;
	/** The tag of the language they want to read, and of the wording they get. */
	readonly language: string;
	readonly reads: string;
	/** "mother of Ana and Rui". */
	readonly relation: string;
	readonly sections: readonly string[];
	readonly copies: readonly {
		readonly way: Way;
		readonly address: string | null;
		readonly sharedWith: string;
		/** Given names of the students this copy speaks of, where each has one of their own. */
		readonly about: string;
		/** When quiet hours let it leave, in words; empty where it leaves with the rest. */
		readonly later: string;
	}[];
	readonly notBy: readonly { readonly way: Way; readonly reason: string }[];
	/** Why they are in: each line that meant them, as its words. */
	readonly why: readonly string[];
	/** Why they get nothing; empty for those who get a copy. */
	readonly leftOut: readonly string[];
}

export interface ManifestHousehold {
	readonly name: string;
	readonly people: readonly ManifestPerson[];
}

/** What the page asks for: a part of the manifest. Its filters all hold at once; an empty text leaves one open. */
export const manifestFilterSchema = z.object({
	search: z.string().max(200).default(''),
	show: z
		.enum(['all', 'copies', 'out', 'not-all-ways', 'several', 'shared', 'later', 'by-hand'])
		.default('all'),
	way: z.enum(['', 'email', 'text', 'inbox']).default(''),
	language: z.string().max(35).default(''),
	reason: z.string().max(200).default(''),
	section: z.string().max(200).default(''),
	page: z.number().int().min(1).default(1)
});
export type ManifestFilter = z.infer<typeof manifestFilterSchema>;

/** A value to filter by, and how many people have it. */
export interface Facet {
	readonly value: string;
	readonly word: string;
	readonly people: number;
}

export interface ManifestPage {
	readonly tally: Tally;
	/** The audience as a sentence. */
	readonly words: string;
	readonly households: readonly ManifestHousehold[];
	readonly page: number;
	readonly pages: number;
	/** People that fit the filter, the households they are in, and people in all. */
	readonly found: number;
	readonly foundHouseholds: number;
	readonly all: number;
	readonly languages: readonly Facet[];
	readonly reasons: readonly Facet[];
	readonly sections: readonly Facet[];
}

/** The whole manifest in words, by household. */
export interface ManifestView {
	readonly tally: Tally;
	readonly words: string;
	readonly households: readonly ManifestHousehold[];
}

const householdsPerPage = 100;
/** The language that wordings are in; variants in others come with the wording. */
const written = 'en';

const inWords = new WeakMap<Planned, Promise<ManifestView>>();

/** The whole manifest of a sheet, by household; people of no household stand alone under their own name. */
export async function manifestView(db: Db, user: User, sending: Sending): Promise<ManifestView> {
	const planned = await planSheet(db, user, sending);
	let view = inWords.get(planned);
	if (!view) inWords.set(planned, (view = makeView(db, planned)));
	return view;
}

async function makeView(db: Db, planned: Planned): Promise<ManifestView> {
	const { roster, manifest, spoken, times } = planned;
	const book = await nameBook(db, spoken);
	const words = spoken.lines.map((line) => lineWords(line, book));
	const person = (
		personId: number,
		studentIds: readonly number[],
		over: Partial<ManifestPerson>
	): ManifestPerson => {
		const who = roster.person(personId);
		const language = who?.language ?? '';
		return {
			personId,
			name: nameOf(roster, personId),
			givenName: who?.givenName ?? '',
			familyName: who?.familyName ?? nameOf(roster, personId),
			language,
			reads: lookupLanguage([language], [written], written),
			relation: '',
			sections: [
				...new Set(
					studentIds.flatMap((id) => roster.section(manifest.sectionOf.get(id) ?? 0)?.name ?? [])
				)
			],
			copies: [],
			notBy: [],
			why: [],
			leftOut: [],
			...over
		};
	};
	const copiesOf = new Map<number, ManifestPerson['copies'][number][]>();
	manifest.copies.forEach(({ personId, way, address, alsoFor, studentIds, step }, i) => {
		const at = dayTime(manifest.dueAt[i]!, times.zone);
		const later =
			step > 0
				? `${at}, only if not read by then`
				: manifest.quietUntil[i] === null
					? ''
					: `${at}, after quiet hours`;
		const all = [personId, ...alsoFor];
		for (const id of all) {
			const list = copiesOf.get(id) ?? [];
			copiesOf.set(id, list);
			list.push({
				way,
				address,
				sharedWith: nameList(all.filter((o) => o !== id).map((o) => nameOf(roster, o))),
				about: nameList(studentIds.map((s) => roster.person(s)?.givenName ?? '')),
				later
			});
		}
	});
	const notBy = new Map<number, { way: Way; reason: string }[]>();
	for (const { personId, way, reason } of manifest.notByWay) {
		const list = notBy.get(personId) ?? [];
		notBy.set(personId, list);
		list.push({ way, reason: reasonText(reason) });
	}
	const people: ManifestPerson[] = [];
	for (const recipient of manifest.recipients) {
		const { personId, because } = recipient;
		const lines = new Set(because.flatMap((b) => [b.line ?? -1, ...b.also]));
		people.push(
			person(
				personId,
				because.flatMap((b) => b.studentId ?? []),
				{
					relation: partOf(roster, recipient),
					copies: copiesOf.get(personId) ?? [],
					notBy: notBy.get(personId) ?? [],
					why: [...lines].map((l) => (l < 0 ? 'put in by hand' : words[l]!))
				}
			)
		);
	}
	for (const personId of manifest.informed) {
		people.push(
			person(personId, [], {
				relation: partOf(roster, undefined),
				copies: copiesOf.get(personId) ?? [],
				why: ['a copy for information']
			})
		);
	}
	for (const { personId, studentIds, reasons } of manifest.leftOut) {
		people.push(
			person(personId, studentIds, {
				relation: relationPhrase(roster, personId, studentIds),
				leftOut: reasons.map(reasonText)
			})
		);
	}
	return {
		tally: tallyOf(manifest),
		words: audienceWords(spoken, book),
		households: await byHousehold(db, planned, people)
	};
}

async function byHousehold(
	db: Db,
	{ roster, manifest }: Planned,
	people: readonly ManifestPerson[]
): Promise<ManifestHousehold[]> {
	const names = new Map(
		(await db.all<{ id: number; name: string }>('SELECT id, name FROM household')).map((h) => [
			h.id,
			h.name
		])
	);
	const informed = new Set(manifest.informed);
	const homes = new Map<string, { name: string; people: ManifestPerson[] }>();
	for (const person of people) {
		// Whoever has two homes stands under the first.
		const home = roster.householdsOf(person.personId)[0];
		const [key, name] = informed.has(person.personId)
			? ['copies', 'Copies for information']
			: home === undefined
				? [`p${person.personId}`, person.name]
				: [`h${home}`, names.get(home) ?? person.name];
		const entry = homes.get(key) ?? { name, people: [] };
		entry.people.push(person);
		homes.set(key, entry);
	}
	const order = new Intl.Collator('en');
	return [...homes.values()].sort((a, b) => order.compare(a.name, b.name));
}

function fits(
	p: ManifestPerson,
	filter: ManifestFilter,
	words: readonly string[],
	byHand: ReadonlySet<number>
): boolean {
	if (filter.language && p.language !== filter.language) return false;
	if (filter.way && !p.copies.some((c) => c.way === filter.way)) return false;
	if (filter.section && !p.sections.includes(filter.section)) return false;
	if (filter.reason && !reasonsOf(p).includes(filter.reason)) return false;
	switch (filter.show) {
		case 'copies':
			if (p.copies.length === 0) return false;
			break;
		case 'out':
			if (p.leftOut.length === 0) return false;
			break;
		case 'not-all-ways':
			if (p.notBy.length === 0 || p.copies.length === 0) return false;
			break;
		case 'several':
			if (!/ and |, /.test(p.relation)) return false;
			break;
		case 'shared':
			if (!p.copies.some((c) => c.sharedWith)) return false;
			break;
		case 'later':
			if (!p.copies.some((c) => c.later)) return false;
			break;
		case 'by-hand':
			if (!byHand.has(p.personId)) return false;
	}
	if (words.length === 0) return true;
	const text = fold(
		[p.name, p.relation, ...p.sections, ...p.copies.map((c) => c.address ?? '')].join(' ')
	);
	return words.every((w) => text.includes(w));
}

/** Every reason that touches a person, whether they are left out or only not reached by one way; what differs from person to person is cut off. */
const reasonsOf = (p: ManifestPerson): string[] =>
	[...p.leftOut, ...p.notBy.map((n) => n.reason)].map((r) => r.split(': ')[0]!);

function facets(
	people: readonly ManifestPerson[],
	valuesOf: (p: ManifestPerson) => readonly string[],
	wordOf: (value: string) => string = (v) => v
): Facet[] {
	const counts = new Map<string, number>();
	for (const p of people) {
		for (const value of new Set(valuesOf(p))) counts.set(value, (counts.get(value) ?? 0) + 1);
	}
	return [...counts]
		.map(([value, n]) => ({ value, word: wordOf(value), people: n }))
		.sort((a, b) => a.word.localeCompare(b.word, 'en', { numeric: true }));
}

/** The part of the manifest that fits a filter, a page of households at a time. */
export async function manifestPage(
	db: Db,
	user: User,
	sending: Sending,
	filter: ManifestFilter
): Promise<ManifestPage> {
	const view = await manifestView(db, user, sending);
	const words = fold(filter.search).split(/\s+/).filter(Boolean);
	const byHand = new Set([
		...sending.audience.byHand.map((h) => h.personId),
		...sending.copies.waysByHand.map((w) => w.personId)
	]);
	const everyone = view.households.flatMap((h) => h.people);
	const found = view.households.flatMap((h) => {
		const people = h.people.filter((p) => fits(p, filter, words, byHand));
		return people.length === 0 ? [] : [{ name: h.name, people }];
	});
	const pages = Math.max(1, Math.ceil(found.length / householdsPerPage));
	const page = Math.min(filter.page, pages);
	return {
		tally: view.tally,
		words: view.words,
		households: found.slice((page - 1) * householdsPerPage, page * householdsPerPage),
		page,
		pages,
		found: found.reduce((sum, h) => sum + h.people.length, 0),
		foundHouseholds: found.length,
		all: everyone.length,
		languages: facets(everyone, (p) => [p.language], nameOfLanguage),
		reasons: facets(everyone, reasonsOf),
		sections: facets(everyone, (p) => p.sections)
	};
}

/** One line for each copy, and one for each person left out. */
export function manifestCsv(view: ManifestView): string {
	const rows: string[][] = [
		[
			'household',
			'person',
			'relation',
			'language',
			'section',
			'way',
			'address',
			'leaves later',
			'why',
			'left out'
		]
	];
	for (const home of view.households) {
		for (const p of home.people) {
			const start = [home.name, p.name, p.relation, p.language, p.sections.join('; ')];
			if (p.copies.length === 0) rows.push([...start, '', '', '', '', p.leftOut.join('; ')]);
			for (const c of p.copies)
				rows.push([...start, c.way, c.address ?? '', c.later, p.why.join('; '), '']);
		}
	}
	return writeCsv(rows);
}

/** The email addresses of the manifest, each once, ready for the blind-copy field of another mail program. */
export function addressList(view: ManifestView): string {
	const addresses = view.households.flatMap((h) =>
		h.people.flatMap((p) =>
			p.copies.flatMap((c) => (c.way === 'email' && c.address ? c.address : []))
		)
	);
	const seen = new Set<string>();
	return addresses
		.filter((a) => !seen.has(a.toLowerCase()) && seen.add(a.toLowerCase()))
		.join(', ');
}

/** Everyone who gets a copy, as vCards, with the addresses that the manifest uses. */
export function manifestCards(view: ManifestView): string {
	const people = view.households.flatMap((h) => h.people).filter((p) => p.copies.length > 0);
	// With a copy for each student the same address comes again.
	const by = (p: ManifestPerson, way: Way) => [
		...new Set(p.copies.flatMap((c) => (c.way === way && c.address ? c.address : [])))
	];
	return writeVcards(
		people.map((p) => ({
			uid: `person-${p.personId}`,
			givenName: p.givenName,
			familyName: p.familyName,
			emails: by(p, 'email'),
			phones: by(p, 'text'),
			language: p.language,
			note: p.relation
		}))
	);
}
