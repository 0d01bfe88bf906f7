import PDFDocument from 'pdfkit';
import { numberPages } from './number-pages';
import { margin, Pen } from './pen';
import { pageSize, type PaperSize } from './sizes';

/** What a paper says of itself, and on what it is printed. */
interface PaperKind {
	readonly title: string;
	readonly author: string;
	readonly size?: PaperSize;
	/** Language of its words, BCP 47, where it is in one. */
	readonly language?: string;
	/** Margin at the foot, points. */
	readonly bottom?: number;
	/** Whether each page says which of how many it is. */
	readonly numbered?: boolean;
}

/** A paper as a PDF, with the margins of ours; `draw` fills it from the top of its first page. */
export async function drawPaper(
	{ title, author, size = 'letter', language, bottom = margin, numbered = false }: PaperKind,
	draw: (pen: Pen) => void
): Promise<Buffer> {
	const doc = new PDFDocument({
		size: pageSize(size),
		margins: { top: margin, left: margin, right: margin, bottom },
		bufferPages: numbered,
		...(language === undefined ? {} : { lang: language }),
		info: { Title: title, Author: author }
	});
	const chunks: Buffer[] = [];
	doc.on('data', (chunk: Buffer) => chunks.push(chunk));
	const done = new Promise<void>((resolve) => doc.on('end', resolve));
	const pen = new Pen(doc);
	draw(pen);
	if (numbered) numberPages(pen);
	doc.end();
	await done;
	return Buffer.concat(chunks);
}
