import { dayTime } from '../../../core/time/zone';
import { drawPaper } from '../../paper/draw-paper';
import { margin, quiet } from '../../paper/pen';
import type { WholeFile } from './types';

/** ISO 8601 with a time, as the file has its instants. */
const instant = /^\d{4}-\d\d-\d\dT[\d:.]+Z$/;

type ByClock = Pick<WholeFile, 'zone' | 'clock'>;

const said = (value: unknown, { zone, clock }: ByClock): string =>
	typeof value === 'string' && instant.test(value)
		? dayTime(Date.parse(value), zone, undefined, clock)
		: typeof value === 'string' || typeof value === 'number'
			? String(value)
			: JSON.stringify(value);

/** "way: email · address: …", a line of somebody’s file. */
const words = (of: Readonly<Record<string, unknown>>, by: ByClock): string =>
	Object.entries(of)
		.map(([name, value]) => `${name.replace(/([A-Z])/g, ' $1').toLowerCase()}: ${said(value, by)}`)
		.join(' · ');

/** Everything about one person as a PDF that can be read, US letter: a heading for each part, a line for each thing. */
export async function wholeFilePdf(file: WholeFile): Promise<Buffer> {
	return drawPaper(
		{
			title: `Everything about ${file.person}`,
			author: file.district,
			language: 'en',
			numbered: true
		},
		(pen) => {
			const { doc } = pen;
			pen.write(`Everything that ${file.district} has about one person`, 9, { color: quiet });
			doc.moveDown(0.4);
			pen.write(file.person, 19, { weight: 'bold' });
			doc.moveDown(0.2);
			pen.write(`As it was ${dayTime(Date.parse(file.at), file.zone, undefined, file.clock)}.`, 10);
			for (const part of file.parts) {
				if (pen.left < 70) doc.addPage();
				doc.moveDown(0.8);
				pen.write(`${part.name}: ${part.lines.length === 0 ? 'nothing' : part.lines.length}`, 12, {
					weight: 'bold'
				});
				pen.write(part.about, 9, { color: quiet });
				for (const one of part.lines) {
					if (pen.left < 24) doc.addPage();
					const y = pen.rule(2);
					pen.write(words(one, file), 9, { x: margin, y: y + 3 });
				}
			}
		}
	);
}
