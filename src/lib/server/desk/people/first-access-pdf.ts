import { languageDirection } from '../../../core/copy/direction';
import { sheetPhrases } from '../../../core/copy/sheet-phrases';
import { dayWords } from '../../paper/day-words';
import { drawPaper } from '../../paper/draw-paper';
import { Pen, quiet } from '../../paper/pen';
import { drawCode } from '../../paper/qr-code';
import type { PaperSize } from '../../paper/sizes';

/** One sheet: whose inbox it opens, about whom, and by which address. */
export interface AccessSheet {
	readonly name: string;
	/** BCP 47 tag. */
	readonly language: string;
	/** Names of the students that letters to them are about; none for a student's own. */
	readonly students: readonly string[];
	readonly link: string;
	/** The day until which it opens, an ISO date. */
	readonly until: string;
}

const margin = 64;
const codeSide = 190;

function drawSheet(pen: Pen, district: string, sheet: AccessSheet): void {
	const { doc } = pen;
	const words = sheetPhrases(sheet.language);
	const width = doc.page.width - 2 * margin;
	const align = languageDirection(words.tag) === 'rtl' ? 'right' : 'left';
	const say = (text: string, size: number, more: { weight?: 'bold'; color?: string } = {}) =>
		pen.write(text, size, { x: margin, width, align, ...more });
	say(district, 11, { color: quiet });
	doc.moveDown(0.6);
	say(sheet.name, 24, { weight: 'bold' });
	doc.moveDown(0.4);
	say(words.title, 16, { weight: 'bold' });
	doc.moveDown(1.2);
	if (sheet.students.length > 0) {
		say(words.about, 11, { color: quiet });
		say(sheet.students.join(', '), 13);
		doc.moveDown(1);
	}
	say(words.how, 13);
	const y = doc.y + 12;
	const x = align === 'right' ? margin + width - codeSide : margin;
	drawCode(doc, sheet.link, x, y, codeSide);
	doc.y = y + codeSide + 10;
	pen.write(sheet.link, 12, { x: margin, width, weight: 'bold', align });
	doc.moveDown(1.2);
	say(words.own, 13);
	doc.moveDown(0.8);
	say(words.until, 11, { color: quiet });
	say(dayWords(words.tag, sheet.until), 13);
	doc.moveDown(0.8);
	say(words.after, 11, { color: quiet });
}

/** Sheets of paper, one for each person, each in their language. */
export async function firstAccessPdf(
	district: string,
	sheets: readonly AccessSheet[],
	size: PaperSize
): Promise<Uint8Array> {
	return drawPaper({ title: 'The way to the inbox', author: district, size }, (pen) => {
		const { doc } = pen;
		sheets.forEach((sheet, i) => {
			if (i > 0) doc.addPage();
			doc.x = doc.y = margin;
			drawSheet(pen, district, sheet);
		});
	});
}
