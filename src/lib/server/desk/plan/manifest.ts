import { z } from 'zod';
import { reasonsText, reasonText, type Reason } from '../../../core/audience/reasons';
import { audienceWords, lineWords } from '../../../core/audience/sentence';
import { nameList } from '../../../core/copy/names';
import { writeCsv } from '../../../core/format/csv';
import { fold } from '../../../core/format/fold';
import { writeVcards } from '../../../core/format/vcard';
import { studentsLeft, whyLeft, studentLeftWords } from '../../../core/plan/students-left';
import { shortReason, studentsOf, tallyOf, type Tally } from '../../../core/plan/tally';
import { dayTime } from '../../../core/time/zone';
import { nameOf, relationPhrase } from '../../../core/roster/relation';
import type { User } from '../../access/sessions';
import { lookupLanguage, nameOfLanguage } from '../../../core/copy/language';
import { languageTagSchema } from '../../../core/copy/words';
import { nameBook } from '../../db/names';
import type { Db } from '../../db/open';
import { planSheet, type Planned } from './plan-sheet';
import type { Sending } from '../sheet/sheet';
import { partOf } from './tally';
import type { StudentLeftLine } from '../track/types';
import type {
	ManifestHousehold,
	ManifestPerson,
	Facet,
	ManifestPage,
	ManifestFilter
} from './types';
import type { Way } from '../../../core/roster/way';
import { groupBy } from '../../../core/group-by';

/** The languages that a wording is in: the original's first, then those of variants that are on. */
export const writtenSchema = z.array(languageTagSchema).min(1).max(41).default(['en']);
export type Written = z.infer<typeof writtenSchema>;

/** The whole manifest in words, by household. */
export interface ManifestView {
	readonly tally: Tally;
	readonly words: string;
	readonly households: readonly ManifestHousehold[];
	readonly studentsLeft: readonly StudentLeftLine[];
}

const householdsPerPage = 100;
/** As many students of whom no copy speaks as a page lists; the file has all. */
const mostStudentsLeft = 500;

const inWords = new WeakMap<Planned, Map<string, Promise<ManifestView>>>();

/** The whole manifest of a sheet, by household; people of no household stand alone under their own name. */
export async function manifestView(
	db: Db,
	user: User,
	sending: Sending,
	written: Written
): Promise<ManifestView> {
	const planned = await planSheet(db, user, sending);
	let views = inWords.get(planned);
	if (!views) inWords.set(planned, (views = new Map()));
	const key = written.join();
	let view = views.get(key);
	if (!view) views.set(key, (view = makeView(db, planned, written)));
	return view;
}

async function makeView(db: Db, planned: Planned, written: Written): Promise<ManifestView> {
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
			relation: '',
			sections: [
				...new Set(
					studentIds.flatMap((id) => roster.section(manifest.sectionOf.get(id) ?? 0)?.name ?? [])
				)
			],
			copies: [],
			students: 0,
			notBy: [],
			why: [],
			leftOut: [],
			notFor: [],
			reasons: [],
			...over
		};
	};
	// Who shares a copy reads it in the language of the one it is addressed to.
	const readsOf = (personId: number) =>
		lookupLanguage([roster.person(personId)?.language ?? ''], written, written[0]!);
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
				reads: readsOf(personId),
				address,
				sharedWith: nameList(all.filter((o) => o !== id).map((o) => nameOf(roster, o))),
				about: nameList(studentIds.map((s) => roster.person(s)?.givenName ?? '')),
				later
			});
		}
	});
	const notBy = new Map<number, { way: Way; reason: string }[]>();
	const short = new Map<number, Set<string>>();
	const noteReasons = (personId: number, reasons: readonly Reason[]) => {
		const list = short.get(personId) ?? new Set();
		short.set(personId, list);
		reasons.forEach((r) => list.add(shortReason(r)));
	};
	for (const { personId, way, reason } of manifest.notByWay) {
		const list = notBy.get(personId) ?? [];
		notBy.set(personId, list);
		list.push({ way, reason: reasonText(reason) });
		noteReasons(personId, [reason]);
	}
	const given = (ids: readonly number[]) =>
		nameList(ids.map((id) => roster.person(id)?.givenName ?? nameOf(roster, id)));
	const out = groupBy(manifest.leftOut, (l) => l.personId);
	manifest.leftOut.forEach((l) => noteReasons(l.personId, l.reasons));
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
					students: studentsOf(recipient).size,
					notFor: (out.get(personId) ?? []).map(
						(l) => `${given(l.studentIds)}: ${reasonsText(l.reasons, words)}`
					),
					reasons: [...(short.get(personId) ?? [])],
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
	for (const [personId, rows] of out) {
		if (rows[0]!.reached) continue;
		const studentIds = [...new Set(rows.flatMap((l) => l.studentIds))];
		const said = (l: (typeof rows)[number]) => reasonsText(l.reasons, words);
		people.push(
			person(personId, studentIds, {
				relation: relationPhrase(roster, personId, studentIds),
				leftOut:
					rows.length === 1
						? [said(rows[0]!)]
						: rows.map((l) =>
								l.studentIds.length === 0 ? said(l) : `${said(l)}, for ${given(l.studentIds)}`
							),
				reasons: [...(short.get(personId) ?? [])]
			})
		);
	}
	return {
		tally: tallyOf(manifest),
		words: audienceWords(spoken, book),
		households: await byHousehold(db, planned, people),
		studentsLeft: studentsLeft(manifest).map((left) => ({
			studentId: left.studentId,
			kind: left.kind,
			name: nameOf(roster, left.studentId),
			section:
				roster.section(
					manifest.sectionOf.get(left.studentId) ??
						roster.sectionsOf(left.studentId).at(-1)?.id ??
						0
				)?.name ?? '',
			why: whyLeft(left, (id) => nameOf(roster, id), words)
		}))
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
	if (filter.reason && !p.reasons.includes(filter.reason)) return false;
	switch (filter.show) {
		case 'all':
			break;
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
			if (p.students < 2) return false;
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
	written: Written,
	filter: ManifestFilter
): Promise<ManifestPage> {
	const view = await manifestView(db, user, sending, written);
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
		studentsLeft: view.studentsLeft.slice(0, mostStudentsLeft),
		page,
		pages,
		found: found.reduce((sum, h) => sum + h.people.length, 0),
		foundHouseholds: found.length,
		all: everyone.length,
		languages: facets(everyone, (p) => [p.language], nameOfLanguage),
		reasons: facets(everyone, (p) => p.reasons),
		sections: facets(everyone, (p) => p.sections)
	};
}

/** One line for each copy, one for each person left out, and one for each student of whom no copy speaks. */
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
			'in',
			'leaves later',
			'why',
			'left out',
			'not for'
		]
	];
	for (const home of view.households) {
		for (const p of home.people) {
			const start = [home.name, p.name, p.relation, p.language, p.sections.join('; ')];
			if (p.copies.length === 0)
				rows.push([...start, '', '', '', '', '', p.leftOut.join('; '), '']);
			for (const c of p.copies)
				rows.push([
					...start,
					c.way,
					c.address ?? '',
					c.reads,
					c.later,
					p.why.join('; '),
					'',
					p.notFor.join('; ')
				]);
		}
	}
	for (const s of view.studentsLeft) {
		rows.push(['', s.name, studentLeftWords[s.kind], '', s.section, '', '', '', '', '', s.why, '']);
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
