import { picturesIn } from '../../../core/copy/doc';
import { readTemplate } from '../../../core/copy/template';
import { mayBeEmpty } from '../../../core/copy/fields';
import { bodyText } from '../../../core/copy/plain';
import { copyFacts, copyValues } from '../../../core/copy/values';
import { letterWords, wordsFor, type Wording, type Words } from '../../../core/copy/words';
import type { EmptyField, LanguageCount, WordingInput } from '../../../core/plan/check-wording';
import type { Manifest } from '../../../core/plan/manifest';
import type { Tally } from '../../../core/plan/tally';
import { nameOf } from '../../../core/roster/relation';
import type { Roster } from '../../../core/roster/roster';
import type { User } from '../../access/user';
import { readDistrict } from '../../db/district';
import { nameOfLanguage } from '../../../core/copy/language';
import type { Query } from '../../db/open';
import { filesOfSheet, usableFiles } from '../sheet/files';
import { readStored } from '../sheet/letters';
import { planBook, plannedStudent, type PlanBook } from './plan-facts';
import type { Planned } from './plan-sheet';
import type { Sheet } from '../sheet/sheet';
import type { Way } from '../../../core/roster/way';

/** How many people want to read each language, and which wording they get; most first. */
export function languageCounts(
	roster: Roster,
	manifest: Pick<Manifest, 'recipients'>,
	wording: Wording
): LanguageCount[] {
	const people = new Map<string, number>();
	for (const { personId } of manifest.recipients) {
		const language = roster.person(personId)?.language ?? wording.language;
		people.set(language, (people.get(language) ?? 0) + 1);
	}
	return [...people]
		.map(([language, n]) => ({
			language,
			name: nameOfLanguage(language),
			people: n,
			gets: wordsFor(wording, language).language
		}))
		.sort((a, b) => b.people - a.people || a.name.localeCompare(b.name));
}

/** Fields that words by a way would leave a gap for, where somebody has no value. */
function bareFields(words: Words, way: Way): string[] {
	const templates =
		way === 'text'
			? words.own.text
				? [words.own.text.text]
				: [words.subject, bodyText(words.body)]
			: [letterWords(words, way).subject, bodyText(letterWords(words, way).body)];
	return [...new Set(templates.flatMap((t) => readTemplate(t).bare))].filter(mayBeEmpty);
}

/** As many names as are listed. */
const mostNames = 500;

const nobody = { givenName: '', familyName: '' };

/**
 * Whether a field says something of a student. What may be empty at all speaks of students, and has a value where it says
 * something of one of them; most students are in several copies, and are looked at once.
 */
function saidOfStudents(
	roster: Roster,
	book: PlanBook,
	manifest: Manifest
): (studentId: number, field: string) => boolean {
	const known = new Map<string, Map<number, boolean>>();
	const look = (studentId: number, field: string): boolean => {
		const student = plannedStudent(roster, book, manifest, studentId);
		if (!student) return false;
		const facts = copyFacts(nobody, [{ ...student, own: false }]);
		return copyValues(facts, () => '', 'en')(field) !== '';
	};
	return (studentId, field) => {
		let of = known.get(field);
		if (!of) known.set(field, (of = new Map<number, boolean>()));
		let says = of.get(studentId);
		if (says === undefined) of.set(studentId, (says = look(studentId, field)));
		return says;
	};
}

/** Fields without a fallback that have no value for some recipients. */
function emptyFields(
	roster: Roster,
	book: PlanBook,
	manifest: Manifest,
	wording: Wording
): EmptyField[] {
	const bare = new Map<string, string[]>();
	const bareFor = (language: string, way: Way): string[] => {
		const key = `${language} ${way}`;
		let names = bare.get(key);
		if (!names) {
			names = bareFields(wordsFor(wording, language).words, way);
			bare.set(key, names);
		}
		return names;
	};
	const said = saidOfStudents(roster, book, manifest);
	const without = new Map<string, Set<number>>();
	for (const copy of manifest.copies) {
		const names = bareFor(roster.person(copy.personId)?.language ?? wording.language, copy.way);
		for (const name of names) {
			if (copy.studentIds.some((id) => said(id, name))) continue;
			const ids = without.get(name);
			if (ids) ids.add(copy.personId);
			else without.set(name, new Set([copy.personId]));
		}
	}
	return [...without].map(([field, ids]) => ({
		field,
		people: ids.size,
		names: [...ids].slice(0, mostNames).map((id) => nameOf(roster, id))
	}));
}

/** What the check of the wording looks at, for a sheet as it was planned. */
export async function wordingInput(
	db: Query,
	user: User,
	sheet: Sheet,
	{ roster, manifest, moment, zone, now: time }: Planned,
	tally: Tally
): Promise<WordingInput> {
	const district = await readDistrict(db);
	const wanted = filesOfSheet(sheet);
	const files = new Map((await usableFiles(db, user, wanted)).map((f) => [f.id, f]));
	const { logo } = district.letterhead;
	const { note } = sheet.letter;
	const logoBytes = logo ? ((await readStored(db, [logo.fileId]))[0]?.bytes ?? 0) : 0;
	return {
		wording: sheet.wording,
		ways: sheet.ways,
		kind: sheet.kind,
		replyTo: sheet.letter.replyTo,
		now: time,
		leavesAt: moment.at,
		zone,
		languages: languageCounts(roster, manifest, sheet.wording),
		emptyFields: emptyFields(
			roster,
			await planBook(db, user, sheet.wording),
			manifest,
			sheet.wording
		),
		files: sheet.letter.files.flatMap(({ fileId, mode }) => {
			const file = files.get(fileId);
			return file ? [{ fileId, mode, name: file.name, bytes: file.bytes }] : [];
		}),
		note,
		filesMissing: wanted.filter((id) => !files.has(id)).length,
		emails: tally.byWay.email,
		texts: tally.byWay.text,
		pictureBytes: picturesIn(letterWords(sheet.wording.words, 'email').body).reduce(
			(sum, p) => sum + (files.get(p.fileId)?.bytes ?? 0),
			// These go with every email.
			logoBytes + (note?.picture ? (files.get(note.picture.fileId)?.bytes ?? 0) : 0)
		),
		mailLimitBytes: district.mailLimitMegabytes * 1e6,
		nameOfLanguage
	};
}
