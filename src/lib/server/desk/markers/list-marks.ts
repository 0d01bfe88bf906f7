import { z } from 'zod';
import { fold } from '../../../core/format/fold';
import { orderOf } from '../../../core/roster/list/values';
import { markStep, readMark } from '../../../core/roster/marker';
import type { User } from '../../access/user';
import type { MarkerRow } from '../../db/models/roster';
import type { Db } from '../../db/open';
import type { Said } from '../../said';
import { readStudentTable, type StudentTable } from '../roster/student-table';
import { markerOf, marking, marksHere, notThere, type MarkedHere } from './marking';
import type { ListedMark, SeenMarks } from './types';

/** Which column says what the marker is; `null` where whoever stands on the list has it. */
function columnOf(
	{ heading, ofStudent, lines }: StudentTable,
	{ name, kind }: MarkerRow
): Said<{ readonly at: number | null; readonly title: string | null }> {
	const others = ofStudent.flatMap((is, i) => (is ? [] : i));
	const wanted = [fold(name), 'marker', 'value'];
	const byName = others.filter((i) => wanted.includes(fold((heading?.[i] ?? '').trim())));
	const full = others.filter((i) => lines.some((l) => (l.cells[i] ?? '').trim() !== ''));
	const found = byName[0] ?? (full.length === 1 ? full[0]! : null);
	if (found !== null)
		return { ok: true, at: found, title: heading?.[found] ?? `column ${found + 1}` };
	if (full.length > 1)
		return {
			ok: false,
			why: `The list has ${full.length} columns that could be “${name}”. Head the one that is meant with that name.`
		};
	return kind === 'yes-no'
		? { ok: true, at: null, title: null }
		: { ok: false, why: `No column says what “${name}” is. Add one, headed with that name.` };
}

/** How a student stands here for {@link markStep}. */
const standing = ({ value, how, listed }: MarkedHere) =>
	how === null ? null : { value, byHand: how === 'hand', listed };

/** What a list says of a marker, beside what is here. Nothing is changed. */
export async function lookAtMarks(
	place: { readonly db: Db; readonly key: Buffer },
	user: User,
	markerId: number,
	content: Uint8Array
): Promise<Said<SeenMarks>> {
	const { db } = place;
	const marker = await markerOf(db, user, markerId);
	if (!marker) return notThere;
	const table = await readStudentTable(place, user, content);
	if (!table.ok) return table;
	const column = columnOf(table, marker);
	if (!column.ok) return column;
	const here = await marksHere(db, user, marker, null);
	const cell = (cells: readonly string[]) =>
		column.at === null ? 'yes' : (cells[column.at] ?? '');
	const order = orderOf(table.lines.slice(0, 500).map((l) => cell(l.cells)));
	const said = new Map<number, { mark: ListedMark; line: number }>();
	const wrong: { line: number; text: string }[] = [];
	for (const { line, cells, student, why } of table.lines) {
		if (!student) {
			wrong.push({ line, text: why });
			continue;
		}
		const one = here.get(student.id);
		if (!one) {
			wrong.push({ line, text: `${student.name} is not of the school that this marker is of.` });
			continue;
		}
		const read = readMark(marker.kind, cell(cells), order);
		const before = said.get(student.id);
		if (!read.ok) wrong.push({ line, text: `${student.name}: ${read.why}` });
		else if (before && before.mark.value !== read.value)
			wrong.push({
				line,
				text: `${student.name} stands in line ${before.line} already, with something else.`
			});
		else said.set(student.id, { mark: { ...student, before: one.value, value: read.value }, line });
	}
	const marks = [...said.values()].map((s) => s.mark);
	const stepOf = (mark: ListedMark) => markStep(standing(here.get(mark.id)!), mark.value);
	const absent = [...here].flatMap(([id, one]): ListedMark[] =>
		said.has(id) || one.value === null || markStep(standing(one), null) !== 'set'
			? []
			: [{ id, name: one.name, note: '', before: one.value, value: null }]
	);
	return {
		ok: true,
		column: column.title,
		set: marks.filter((m) => stepOf(m) === 'set'),
		same: marks.filter((m) => stepOf(m) === 'same').length,
		stays: marks.filter((m) => stepOf(m) === 'stays'),
		absent,
		wrong,
		said: marks.map((m) => [m.id, m.value] as const)
	};
}

/** A list as it was seen: students and values; whether whoever is not on it lacks the marker. */
export const takeMarksSchema = z.object({
	said: z
		.string()
		.max(3_000_000)
		.transform((text, context): unknown => {
			try {
				return JSON.parse(text);
			} catch {
				context.issues.push({ code: 'custom', message: 'The list cannot be read.', input: text });
				return z.NEVER;
			}
		})
		.pipe(
			z.array(z.tuple([z.number().int().positive(), z.string().max(200).nullable()])).max(30_000)
		),
	complete: z.enum(['yes', 'no']).catch('no')
});

/** What a list came to: how many students it changed something for, and for how many a hand's value stays. */
interface Taken {
	readonly put: number;
	readonly stays: number;
}

/** Takes a list in as it was seen. */
export async function takeMarks(
	db: Db,
	user: User,
	markerId: number,
	{ said, complete }: z.infer<typeof takeMarksSchema>
): Promise<Said<Taken>> {
	const listed = new Map(said);
	return marking(
		db,
		user,
		markerId,
		complete === 'yes' ? null : [...listed.keys()],
		(m): Said<Taken> => {
			let [put, stays] = [0, 0];
			for (const [studentId, one] of m.here) {
				const text = listed.get(studentId) ?? null;
				// A browser sends what it likes: read as a list is read.
				const read = readMark(m.marker.kind, text ?? '', 'month-first');
				if (!read.ok) return { ok: false, why: `${one.name}: ${read.why}` };
				const step = markStep(standing(one), read.value);
				if (step === 'stays') stays += 1;
				if (step === 'set') {
					put += 1;
					m.put({ studentId, value: read.value, listed: read.value }, 'list');
				} else if (one.how !== null && one.listed !== read.value)
					// What the list says is kept beside what a hand has set.
					m.put({ studentId, value: one.value, listed: read.value }, one.how);
			}
			return { ok: true, put, stays };
		}
	);
}
