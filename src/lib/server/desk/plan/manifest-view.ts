import { remembering } from '../../db/remember';
import { z } from 'zod';
import { languageTagSchema } from '../../../core/copy/words';
import { type Tally, tallyOf } from '../../../core/plan/tally';
import type { ManifestHousehold, ManifestPerson } from './types';
import type { StudentLeftLine } from '../track/types';
import { type Planned, planSheet } from './plan-sheet';
import type { Db } from '../../db/open';
import type { User } from '../../access/user';
import type { Sending } from '../sheet/sheet';
import { nameBook } from '../../db/names';
import { lineWords, audienceWords } from '../../../core/audience/sentence';
import { nameOf } from '../../../core/roster/relation';
import { peopleOf, reasonsByPerson, type Said } from './manifest-people';
import { studentsLeft, whyLeft } from '../../../core/plan/students-left';
import type { HouseholdRow } from '../../db/models/roster';

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

/** Of one plan, by the languages it is written in: whoever adds one sees both for a while. */
const inWords = remembering<ManifestView>(3);

/** The whole manifest of a sheet, by household; people of no household stand alone under their own name. */
export async function manifestView(
	db: Db,
	user: User,
	sending: Sending,
	written: Written
): Promise<ManifestView> {
	const planned = await planSheet(db, user, sending);
	return inWords.get(planned, written.join(), () => makeView(db, planned, written));
}

/** Students of whom no copy speaks, and why. */
const studentsLeftOf = ({ planned: { roster, manifest }, words }: Said): StudentLeftLine[] =>
	studentsLeft(manifest).map((left) => {
		const { studentId, kind } = left;
		const section =
			manifest.sectionOf.get(studentId) ?? roster.sectionsOf(studentId).at(-1)?.id ?? 0;
		return {
			studentId,
			kind,
			name: nameOf(roster, studentId),
			section: roster.section(section)?.name ?? '',
			why: whyLeft(left, (id) => nameOf(roster, id), words)
		};
	});

async function makeView(db: Db, planned: Planned, written: Written): Promise<ManifestView> {
	const { manifest, spoken } = planned;
	const book = await nameBook(db, spoken);
	const said: Said = {
		planned,
		words: spoken.lines.map((line) => lineWords(line, book)),
		written
	};
	const reasons = reasonsByPerson(manifest);
	return {
		tally: tallyOf(manifest),
		words: audienceWords(spoken, book),
		reasonWords: reasons.words,
		households: await byHousehold(db, planned, peopleOf(said, reasons.of)),
		studentsLeft: studentsLeftOf(said)
	};
}

async function byHousehold(
	db: Db,
	{ roster, manifest }: Planned,
	people: readonly ManifestPerson[]
): Promise<ManifestHousehold[]> {
	const names = new Map(
		(await db.all<Pick<HouseholdRow, 'id' | 'name'>>('SELECT id, name FROM household')).map((h) => [
			h.id,
			h.name
		])
	);
	const informed = new Set(manifest.informed);
	const homes = new Map<string, { key: string; name: string; people: ManifestPerson[] }>();
	for (const person of people) {
		// Whoever has two homes stands under the first.
		const home = roster.householdsOf(person.personId)[0];
		const [key, name] = informed.has(person.personId)
			? ['copies', 'Copies for information']
			: home === undefined
				? [`p${person.personId}`, person.name]
				: [`h${home}`, names.get(home) ?? person.name];
		const entry = homes.get(key) ?? { key, name, people: [] };
		entry.people.push(person);
		homes.set(key, entry);
	}
	const order = new Intl.Collator('en');
	return [...homes.values()].sort((a, b) => order.compare(a.name, b.name));
}
