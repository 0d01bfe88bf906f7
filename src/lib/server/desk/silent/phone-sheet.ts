import { writeCsv } from '../../../core/format/csv';
import { phoneText } from '../../../core/format/phone';
import { languagesWords } from '../../../core/copy/language';
import { groupBy } from '../../../core/group-by';
import { dayTime } from '../../../core/time/zone';
import { silenceWords } from '../../../core/track/silent-words';
import { readDistrict } from '../../db/district';
import type { Query } from '../../db/open';
import { drawPaper } from '../../paper/draw-paper';
import { margin, quiet, type Pen } from '../../paper/pen';
import type { Stretch } from './happened';
import type { SilentLine } from './types';

/** The families that nothing has reached in a stretch, as they are to be called. */
export interface PhoneSheet {
	readonly stretch: Stretch;
	readonly lines: readonly SilentLine[];
}

const studentsOf = (line: SilentLine): string[] =>
	line.students.map((s) => (s.section === '' ? s.name : `${s.name}, ${s.section}`));

/** The sheet as CSV, a line for each adult who may be called; a family without any has one too. */
export async function silentCsv(db: Query, { stretch, lines }: PhoneSheet): Promise<string> {
	const { zone, clock } = await readDistrict(db);
	const when = (at: number) => dayTime(at, zone, undefined, clock);
	const nobody = { name: '', relation: '', language: '', numbers: [] };
	return writeCsv([
		[
			...['school', 'students', 'adult', 'relation', 'numbers', 'language', 'why', 'more', 'meant'],
			...['left', 'arrived', 'last read', `spoken to (as of ${when(stretch.until)})`]
		],
		...lines.flatMap((line) =>
			(line.adults.length === 0 ? [nobody] : line.adults).map((adult) => [
				...[line.school, studentsOf(line).join('; '), adult.name, adult.relation],
				adult.numbers.map(phoneText).join('; '),
				adult.language === '' ? '' : languagesWords(adult.language),
				...[silenceWords[line.kind].name, line.why.join('; '), line.meant, line.left, line.arrived],
				line.lastReadAt === null ? 'never' : when(line.lastReadAt),
				''
			])
		)
	]);
}

/** One family: a box to tick, whom to call, and why. */
function drawFamily(pen: Pen, line: SilentLine): void {
	const { doc } = pen;
	const width = doc.page.width - 2 * margin;
	const half = width * 0.5;
	if (pen.left < 60) doc.addPage();
	const y = pen.rule(3);
	doc.lineWidth(0.8).strokeColor(quiet);
	doc.rect(margin, y + 5, 10, 10).stroke();
	doc.y = y + 4;
	for (const student of studentsOf(line))
		pen.write(student, 10, { weight: 'bold', x: margin + 18, y: doc.y, width: half - 24 });
	const left = doc.y;
	doc.y = y + 4;
	const x = margin + half;
	if (line.adults.length === 0)
		pen.write('No guardian on file who may be written to', 10, { x, y: doc.y, width: half });
	for (const adult of line.adults) {
		const numbers = adult.numbers.map(phoneText).join(', ') || 'no number on file';
		pen.write(`${adult.name}, ${adult.relation}: ${numbers}`, 10, { x, y: doc.y, width: half });
		if (adult.language !== 'en')
			pen.write(`reads ${languagesWords(adult.language)}`, 9, {
				...{ color: quiet, x, y: doc.y, width: half }
			});
	}
	const right = doc.y;
	doc.y = Math.max(left, right) + 1;
	pen.write(`${silenceWords[line.kind].name}. ${line.why.join('. ')}`, 8.5, {
		...{ color: quiet, x: margin + 18, y: doc.y, width: width - 18 }
	});
	doc.x = margin;
	doc.y += 2;
}

/** The sheet as a PDF, US letter: a part for each school, a box for each family. */
export async function silentPdf(db: Query, { stretch, lines }: PhoneSheet): Promise<Buffer> {
	const { name, zone, clock } = await readDistrict(db);
	const when = (at: number) => dayTime(at, zone, undefined, clock);
	const title = 'Families that nothing has reached';
	return drawPaper({ title, author: name, language: 'en', numbered: true }, (pen) => {
		const { doc } = pen;
		pen.write(`${name} · phone sheet`, 9, { color: quiet });
		doc.moveDown(0.3);
		pen.write(title, 18, { weight: 'bold' });
		pen.write(
			`From ${when(stretch.since)} to ${when(stretch.until)}. What is said here is for the school only.`,
			10
		);
		if (lines.length === 0) pen.write('Something has reached every family.', 11);
		for (const [school, own] of groupBy(lines, (l) => l.school)) {
			if (pen.left < 90) doc.addPage();
			doc.moveDown(0.8);
			const families = own.length === 1 ? '1 family' : `${own.length} families`;
			pen.write(`${school}: ${families}`, 12, { weight: 'bold', x: margin, y: doc.y });
			own.forEach((line) => drawFamily(pen, line));
		}
	});
}
