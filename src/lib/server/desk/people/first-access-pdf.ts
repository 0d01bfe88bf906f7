import PDFDocument from 'pdfkit';
import { create as codeOf } from 'qrcode';
import { languageDirection } from '../../../core/copy/direction';
import { sheetPhrases } from '../../../core/copy/sheet-phrases';
import { Pen, quiet } from '../../paper/pen';

/** The sizes of paper that there are here and elsewhere. */
export const papers = ['letter', 'a4'] as const;
export type PaperSize = (typeof papers)[number];

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
/** Light modules around the code: ISO/IEC 18004 asks for four. */
const quietModules = 4;

/** Draws an address as a QR code (ISO/IEC 18004) with its quiet zone, its upper left corner at x and y. */
function drawCode(doc: PDFKit.PDFDocument, text: string, x: number, y: number, side: number): void {
	const { modules } = codeOf(text, { errorCorrectionLevel: 'M' });
	const unit = side / (modules.size + 2 * quietModules);
	doc.save().rect(x, y, side, side).fill('#ffffff').fillColor('#000000');
	for (let row = 0; row < modules.size; row += 1)
		for (let column = 0; column < modules.size; column += 1)
			if (modules.get(row, column))
				doc.rect(
					x + (column + quietModules) * unit,
					y + (row + quietModules) * unit,
					unit + 0.05,
					unit + 0.05
				);
	doc.fill().restore();
}

/** An ISO date as a language says it; as it is where the language runs from right to left, since figures in it run the other way. */
const dayWords = (language: string, day: string): string =>
	languageDirection(language) === 'rtl'
		? day
		: new Intl.DateTimeFormat(language === 'en' ? 'en-US' : language, {
				dateStyle: 'long',
				timeZone: 'UTC'
			}).format(Date.parse(`${day}T12:00:00Z`));

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
	const doc = new PDFDocument({
		size: size === 'a4' ? 'A4' : 'LETTER',
		margins: { top: margin, left: margin, right: margin, bottom: margin },
		autoFirstPage: false,
		info: { Title: 'The way to the inbox', Author: district }
	});
	const chunks: Buffer[] = [];
	doc.on('data', (chunk: Buffer) => chunks.push(chunk));
	const done = new Promise<void>((resolve) => doc.on('end', resolve));
	doc.addPage();
	const pen = new Pen(doc);
	sheets.forEach((sheet, i) => {
		if (i > 0) doc.addPage();
		doc.x = doc.y = margin;
		drawSheet(pen, district, sheet);
	});
	doc.end();
	await done;
	return Buffer.concat(chunks);
}
