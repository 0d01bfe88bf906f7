import { count } from '../../../core/copy/count';
import { languagesWords } from '../../../core/copy/language';
import { ways } from '../../../core/roster/way';
import type { ClockStyle } from '../../../core/copy/clock-style';
import { startOfDay } from '../../../core/time/local';
import { dayName, dayTime } from '../../../core/time/zone';
import { sumsOf } from '../../../core/track/report-sums';
import {
	costWords,
	ofWords,
	perFamily,
	runningWords,
	weekWords
} from '../../../core/track/report-words';
import { silences } from '../../../core/track/silent';
import { silenceWords } from '../../../core/track/silent-words';
import { drawPaper } from '../../paper/draw-paper';
import { margin, quiet, type Pen } from '../../paper/pen';
import type { TermReport } from './types';

/** Cells of a row, each with where it begins and how wide it is; the first from the left, the others to the right. */
function drawCells(
	pen: Pen,
	cells: readonly string[],
	widths: readonly number[],
	{ head = false }: { readonly head?: boolean } = {}
): void {
	const { doc } = pen;
	if (pen.left < 40) doc.addPage();
	const y = pen.rule(2) + 3;
	let x = margin;
	let below = y;
	cells.forEach((cell, i) => {
		const width = widths[i]!;
		pen.write(cell, head ? 8 : 9.5, {
			...(head ? { color: quiet } : {}),
			...(i === 0 ? {} : { align: 'right' as const }),
			...{ x, y, width: width - 6 }
		});
		below = Math.max(below, doc.y);
		x += width;
	});
	doc.x = margin;
	doc.y = below;
}

function part(pen: Pen, title: string): void {
	if (pen.left < 90) pen.doc.addPage();
	pen.doc.moveDown(0.8);
	pen.write(title, 12, { weight: 'bold', x: margin, y: pen.doc.y });
	pen.doc.moveDown(0.1);
}

/** The report as a PDF, US letter: for whoever reads it at a table. */
export async function reportPdf(
	report: TermReport,
	{ district, clock }: { readonly district: string; readonly clock: ClockStyle }
): Promise<Buffer> {
	const { term, school, weeks, days, languages, silent, partCents } = report;
	const sums = sumsOf(report.weeks);
	const title = `${term.name}: ${school}`;
	return drawPaper({ title, author: district, language: 'en', numbered: true }, (pen) => {
		const { doc } = pen;
		pen.write(`${district} · report of a term`, 9, { color: quiet });
		doc.moveDown(0.3);
		pen.write(title, 18, { weight: 'bold' });
		pen.write(
			[
				`Of what was meant for ${count(report.students)} students, ${ofWords(sums.covered, sums.of)} had been read for them ${days} days after it left.`,
				runningWords(sums.running),
				`As of ${dayTime(report.at, report.zone, undefined, clock)}.`
			]
				.filter(Boolean)
				.join(' '),
			11
		);
		part(pen, 'Week by week');
		const widths = [70, 62, 136, 96, 140];
		drawCells(
			pen,
			[
				'week of',
				'dispatches',
				`covered within ${days} days`,
				'messages a family, most',
				'addresses failing, mended'
			],
			widths,
			{ head: true }
		);
		for (const week of weeks)
			drawCells(
				pen,
				[
					dayName(startOfDay(week.from, report.zone), report.zone),
					count(week.dispatches),
					weekWords(week),
					`${perFamily(week.messages, week.homes)}, ${count(week.most)}`,
					`${count(week.failing)}, ${count(week.mended)}`
				],
				widths
			);
		part(pen, 'By way');
		const three = [120, 120, 132, 132];
		drawCells(pen, ['way', 'copies that left', 'arrived', 'read'], three, { head: true });
		for (const way of ways) {
			const { copies, arrived, read } = sums.ways[way];
			drawCells(pen, [way, count(copies), ofWords(arrived, copies), ofWords(read, copies)], three);
		}
		pen.write(`Texts: ${costWords(sums.parts, partCents, sums.partsUnknown)}.`, 9.5, {
			...{ color: quiet, x: margin, y: doc.y + 3 }
		});
		part(pen, 'By language of the family');
		const two = [252, 252];
		for (const l of languages)
			drawCells(
				pen,
				[l.tags === '' ? 'nobody to read' : languagesWords(l.tags), ofWords(l.covered, l.of)],
				two
			);
		part(pen, 'Families that nothing reached');
		if (!silent) pen.write('Said once thirty days of the term are over.', 9.5, { color: quiet });
		else {
			const cols = [168, 168, 168];
			const { then, now } = silent;
			drawCells(pen, ['', 'in the first 30 days', 'in the last 30 days'], cols, { head: true });
			drawCells(
				pen,
				['all', ofWords(then.silent, then.homes), ofWords(now.silent, now.homes)],
				cols
			);
			for (const kind of silences)
				drawCells(
					pen,
					[silenceWords[kind].name, count(then.kinds[kind]), count(now.kinds[kind])],
					cols
				);
			drawCells(pen, ['spoken to besides', count(then.spoken), count(now.spoken)], cols);
		}
	});
}
