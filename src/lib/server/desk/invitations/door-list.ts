import { writeCsv } from '../../../core/format/csv';
import { slotWords } from '../../../core/talk/invitation';
import { dayTime } from '../../../core/time/zone';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { readDistrict, type District } from '../../db/district';
import type { Query } from '../../db/open';
import { drawPaper } from '../../paper/draw-paper';
import { margin, type Pen, quiet } from '../../paper/pen';
import type { Asked } from '../sheet/asked';
import { linesForDoor } from './list';
import { askedSeen } from './reach';
import type { ComingLine } from './types';

/** The list for the door: those who come, by time and name, and behind them those in line. */
interface DoorList {
	readonly asked: Asked;
	readonly district: District;
	/** Instant, ms: how it stood then. */
	readonly at: number;
	readonly lines: readonly ComingLine[];
	readonly slotWords: (slot: number) => string;
}

async function doorList(db: Query, user: User, id: number): Promise<DoorList | null> {
	const asked = await askedSeen(db, user, id);
	if (!asked) return null;
	const district = await readDistrict(db);
	const at = await now(db);
	const when = (begins: number) => dayTime(begins, asked.zone, at, district.clock);
	const slots = new Map(asked.asking.slots.map((s) => [s.id, slotWords(s, when)]));
	return {
		...{ asked, district, at, lines: await linesForDoor(db, asked) },
		slotWords: (slot) => slots.get(slot) ?? ''
	};
}

/** The list as CSV, a line for each answer; null for whoever may not see it. */
export async function doorListCsv(db: Query, user: User, id: number): Promise<string | null> {
	const list = await doorList(db, user, id);
	return (
		list &&
		writeCsv([
			['who', 'students', 'comes', 'people', 'of them students', 'time', 'in line', 'address'],
			...list.lines.map((l) => [
				l.names.join('; '),
				l.students.join('; '),
				l.state === 'comes' ? 'yes' : 'in line',
				l.people,
				l.studentsComing ?? '',
				list.slotWords(l.slot),
				l.state === 'waits' ? l.inLine : '',
				l.address
			])
		])
	);
}

/** One line with a box to tick: who, for whom, and how many. */
function drawLine(pen: Pen, l: ComingLine): void {
	const { doc } = pen;
	const width = doc.page.width - 2 * margin;
	const who = l.names.join(', ');
	const students = l.students.join(', ');
	if (pen.left < 34) doc.addPage();
	const y = pen.rule(3);
	doc
		.lineWidth(0.8)
		.strokeColor(quiet)
		.rect(margin, y + 5, 10, 10)
		.stroke();
	const many = `${l.people}`;
	pen.write(many, 11, {
		...{ weight: 'bold', x: margin + 18, y: y + 4, width: 26, align: 'right' }
	});
	pen.write(who, 10.5, { x: margin + 56, y: y + 4, width: width * 0.5 - 56 });
	const after = doc.y;
	if (students !== '' && students !== who)
		pen.write(students, 9.5, {
			...{ color: quiet, x: margin + width * 0.5 + 8, y: y + 5, width: width * 0.5 - 8 }
		});
	doc.x = margin;
	doc.y = Math.max(after, doc.y) + 1;
}

const people = (lines: readonly ComingLine[]): string => {
	const n = lines.reduce((sum, l) => sum + l.people, 0);
	return `${n} ${n === 1 ? 'person' : 'people'}`;
};

/** The list as a PDF for the door, US letter: a heading for each time, a box for each answer. Null for whoever may not see it. */
export async function doorListPdf(db: Query, user: User, id: number): Promise<Buffer | null> {
	const list = await doorList(db, user, id);
	if (!list) return null;
	const { asked, district, at, lines } = list;
	return drawPaper(
		{ title: `Who comes: ${asked.subject}`, author: district.name, language: 'en', numbered: true },
		(pen) => {
			const { doc } = pen;
			const come = lines.filter((l) => l.state === 'comes');
			const waiting = lines.filter((l) => l.state === 'waits');
			pen.write(`${district.name} · who comes`, 9, { color: quiet });
			doc.moveDown(0.3);
			pen.write(asked.subject, 18, { weight: 'bold' });
			pen.write(
				`${people(come)} in ${come.length} ${come.length === 1 ? 'answer' : 'answers'}${waiting.length > 0 ? `, ${waiting.length} in line` : ''}, as it was ${dayTime(at, asked.zone, undefined, district.clock)}.`,
				10
			);
			const part = (title: string, of: readonly ComingLine[]) => {
				if (pen.left < 80) doc.addPage();
				doc.moveDown(0.8);
				pen.write(`${title}: ${people(of)}`, 12, { weight: 'bold', x: margin, y: doc.y });
				of.forEach((l) => drawLine(pen, l));
			};
			if (asked.asking.slots.length === 0) part('They come', come);
			for (const { id: slot } of asked.asking.slots)
				part(
					list.slotWords(slot),
					come.filter((l) => l.slot === slot)
				);
			if (waiting.length > 0) part('In line, in their order', waiting);
		}
	);
}
