import type { ManifestView } from './manifest-view';
import { studentLeftWords } from '../../../core/plan/students-left';
import { writeCsv } from '../../../core/format/csv';
import type { ManifestPerson } from './types';
import type { Way } from '../../../core/roster/way';
import { writeVcards } from '../../../core/format/vcard';

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
			phones: by(p, 'text').map((number) => ({ number, type: 'text' as const })),
			language: p.language,
			note: p.relation
		}))
	);
}
