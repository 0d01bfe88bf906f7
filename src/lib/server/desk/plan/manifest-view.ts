import { z } from 'zod';
import { languageTagSchema } from '../../../core/copy/words';
import { type Tally, shortReason, studentsOf, tallyOf } from '../../../core/plan/tally';
import type { ManifestHousehold, ManifestPerson } from './types';
import type { StudentLeftLine } from '../track/types';
import { type Planned, planSheet } from './plan-sheet';
import type { Db } from '../../db/open';
import type { User } from '../../access/sessions';
import type { Sending } from '../sheet/sheet';
import { nameBook } from '../../db/names';
import { lineWords, audienceWords } from '../../../core/audience/sentence';
import { nameOf, relationPhrase } from '../../../core/roster/relation';
import { lookupLanguage } from '../../../core/copy/language';
import { dayTime } from '../../../core/time/zone';
import { nameList } from '../../../core/copy/names';
import type { Way } from '../../../core/roster/way';
import { type Reason, reasonKey, reasonText, reasonsText } from '../../../core/audience/reasons';
import { groupBy } from '../../../core/group-by';
import { partOf } from './tally';
import { studentsLeft, whyLeft } from '../../../core/plan/students-left';

/** The languages that a wording is in: the original's first, then those of variants that are on. */
export const writtenSchema = z.array(languageTagSchema).min(1).max(41).default(['en']);

export type Written = z.infer<typeof writtenSchema>;

/** The whole manifest in words, by household. */
export interface ManifestView {
	readonly tally: Tally;
	readonly words: string;
	readonly households: readonly ManifestHousehold[];
	readonly studentsLeft: readonly StudentLeftLine[];
	/** Each reason of its people in words, by its key. */
	readonly reasonWords: ReadonlyMap<string, string>;
}

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
	const reasonWords = new Map<string, string>();
	const noteReasons = (personId: number, reasons: readonly Reason[]) => {
		const list = short.get(personId) ?? new Set();
		short.set(personId, list);
		for (const r of reasons) {
			const key = reasonKey(r);
			list.add(key);
			if (!reasonWords.has(key)) reasonWords.set(key, shortReason(r));
		}
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
		reasonWords,
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
