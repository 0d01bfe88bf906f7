import { fold } from '../../../core/format/fold';
import type { User } from '../../access/user';
import { nameOfLanguage } from '../../../core/copy/language';
import type { Db } from '../../db/open';
import type { Sending } from '../sheet/sheet';
import type { ManifestPerson, Facet, ManifestPage, ManifestFilter } from './types';
import { type Written, manifestView } from './manifest-view';

const householdsPerPage = 100;
/** As many students of whom no copy speaks as a page lists; the file has all. */
const mostStudentsLeft = 500;

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
		return people.length === 0 ? [] : [{ ...h, people }];
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
		reasons: facets(
			everyone,
			(p) => p.reasons,
			(key) => view.reasonWords.get(key) ?? key
		),
		sections: facets(everyone, (p) => p.sections)
	};
}
