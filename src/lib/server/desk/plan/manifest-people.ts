import { lookupLanguage } from '../../../core/copy/language';
import { nameList } from '../../../core/copy/names';
import { groupBy } from '../../../core/group-by';
import { type Reason, reasonKey, reasonText, reasonsText } from '../../../core/audience/reasons';
import { shortReason, studentsOf } from '../../../core/plan/tally';
import { nameOf, relationPhrase } from '../../../core/roster/relation';
import type { Roster } from '../../../core/roster/roster';
import { dayTime } from '../../../core/time/zone';
import type { Planned } from './plan-sheet';
import { partOf } from './tally';
import type { ManifestPerson } from './types';

/** What a plan is said with: the lines as words, and the language each copy is read in. */
export interface Said {
	readonly planned: Planned;
	/** Each line of the audience in words. */
	readonly words: readonly string[];
	/** The languages that the wording is in, the original's first. */
	readonly written: readonly string[];
}

/** Given names of some people: "Ana and Rui". */
const given = (roster: Roster, ids: readonly number[]): string =>
	nameList(ids.map((id) => roster.person(id)?.givenName ?? nameOf(roster, id)));

/** A person of the manifest, as far as the roster says it. */
function personOf(
	{ roster, manifest }: Planned,
	personId: number,
	studentIds: readonly number[],
	over: Partial<ManifestPerson>
): ManifestPerson {
	const who = roster.person(personId);
	const sections = studentIds.flatMap(
		(id) => roster.section(manifest.sectionOf.get(id) ?? 0)?.name ?? []
	);
	return {
		personId,
		name: nameOf(roster, personId),
		givenName: who?.givenName ?? '',
		familyName: who?.familyName ?? nameOf(roster, personId),
		language: who?.language ?? '',
		relation: '',
		sections: [...new Set(sections)],
		copies: [],
		students: 0,
		notBy: [],
		why: [],
		leftOut: [],
		notFor: [],
		reasons: [],
		...over
	};
}

/** Copies by whoever reads them: the one they are addressed to, and those who share the address. */
function copiesByPerson({
	planned: { roster, manifest, zone, times },
	written
}: Said): ReadonlyMap<number, ManifestPerson['copies'][number][]> {
	const of = new Map<number, ManifestPerson['copies'][number][]>();
	manifest.copies.forEach(({ personId, way, address, alsoFor, studentIds, step }, i) => {
		const at = dayTime(manifest.dueAt[i]!, zone, undefined, times.style);
		const waits = manifest.inDigest[i]
			? `${at}, in their daily digest`
			: manifest.quietUntil[i] === null
				? ''
				: `${at}, after quiet hours`;
		// Who shares a copy reads it in the language of the one it is addressed to.
		const reads = lookupLanguage([roster.person(personId)?.language ?? ''], written, written[0]!);
		const all = [personId, ...alsoFor];
		for (const id of all) {
			const list = of.get(id) ?? [];
			of.set(id, list);
			list.push({
				way,
				reads,
				address,
				sharedWith: nameList(all.filter((o) => o !== id).map((o) => nameOf(roster, o))),
				about: nameList(studentIds.map((s) => roster.person(s)?.givenName ?? '')),
				later: step > 0 ? `${at}, only if not read by then` : waits
			});
		}
	});
	return of;
}

/** Keys of the reasons that concern each person, and each reason in words. */
export function reasonsByPerson(manifest: Planned['manifest']) {
	const keys = new Map<number, Set<string>>();
	const words = new Map<string, string>();
	const note = (personId: number, reasons: readonly Reason[]) => {
		const list = keys.get(personId) ?? new Set();
		keys.set(personId, list);
		for (const r of reasons) {
			const key = reasonKey(r);
			list.add(key);
			if (!words.has(key)) words.set(key, shortReason(r));
		}
	};
	for (const { personId, reason } of manifest.notByWay) note(personId, [reason]);
	for (const { personId, reasons } of manifest.leftOut) note(personId, reasons);
	return { of: (personId: number) => [...(keys.get(personId) ?? [])], words };
}

/** Everyone of the manifest: who gets copies, who gets one for information, and who is left out. */
export function peopleOf(said: Said, reasonsOf: (personId: number) => string[]): ManifestPerson[] {
	const { planned, words } = said;
	const { roster, manifest } = planned;
	const copies = copiesByPerson(said);
	const notBy = groupBy(manifest.notByWay, (n) => n.personId);
	const out = groupBy(manifest.leftOut, (l) => l.personId);
	const why = (l: (typeof manifest.leftOut)[number]) => reasonsText(l.reasons, words);
	return [
		...manifest.recipients.map((recipient) => {
			const { personId, because } = recipient;
			const lines = new Set(because.flatMap((b) => [b.line ?? -1, ...b.also]));
			const studentIds = because.flatMap((b) => b.studentId ?? []);
			return personOf(planned, personId, studentIds, {
				relation: partOf(roster, recipient),
				students: studentsOf(recipient).size,
				notFor: (out.get(personId) ?? []).map((l) => `${given(roster, l.studentIds)}: ${why(l)}`),
				reasons: reasonsOf(personId),
				copies: copies.get(personId) ?? [],
				notBy: (notBy.get(personId) ?? []).map(({ way, reason }) => ({
					way,
					reason: reasonText(reason)
				})),
				why: [...lines].map((l) => (l < 0 ? 'put in by hand' : words[l]!))
			});
		}),
		...manifest.informed.map((personId) =>
			personOf(planned, personId, [], {
				relation: partOf(roster, undefined),
				copies: copies.get(personId) ?? [],
				why: ['a copy for information']
			})
		),
		...[...out]
			.filter(([, rows]) => !rows[0]!.reached)
			.map(([personId, rows]) => {
				const studentIds = [...new Set(rows.flatMap((l) => l.studentIds))];
				const about = (l: (typeof rows)[number]) =>
					rows.length === 1 || l.studentIds.length === 0
						? why(l)
						: `${why(l)}, for ${given(roster, l.studentIds)}`;
				return personOf(planned, personId, studentIds, {
					relation: relationPhrase(roster, personId, studentIds),
					leftOut: rows.map(about),
					reasons: reasonsOf(personId)
				});
			})
	];
}
