import { createRequire } from 'node:module';
import PDFDocument from 'pdfkit';
import type { Account } from '../../../core/track/account';
import type { Growth } from '../../../core/track/growth';
import { stretchWords } from '../../../core/time/stretch';

/** Names that follow the numbers, and how many there are of each in all. */
export interface AccountLists {
	/** "Ana Amaro, Drama 7-A". */
	readonly notCovered: readonly string[];
	readonly notCoveredInAll: number;
	/** "Paulo Amaro, for Ana: No email address on file". */
	readonly leftOut: readonly string[];
	readonly leftOutInAll: number;
}

const ink = '#1d2b33';
const quiet = '#55636b';
const line = '#ddd5c6';
const action = '#0f5c63';
const margin = 54;
/** What one hands to a principal is read at a glance: the numbers take two pages at most. The names follow. */
const mostPages = 2;
/** More paper than this nobody reads; the file has them all. */
const mostPagesWithNames = 40;

const fontFile = (name: string): string =>
	createRequire(import.meta.url).resolve(`@fontsource/${name}`);
const family = 'atkinson-hyperlegible-next/files/atkinson-hyperlegible-next';
const noto = 'noto-sans/files/noto-sans';
const arabic = 'noto-sans-arabic/files/noto-sans-arabic-arabic';
/** Of each weight the files in which a letter is looked for, one after another. */
const files = {
	plain: [
		`${family}-latin-400-normal.woff`,
		`${family}-latin-ext-400-normal.woff`,
		`${noto}-latin-ext-400-normal.woff`,
		`${noto}-vietnamese-400-normal.woff`,
		`${noto}-cyrillic-400-normal.woff`,
		`${noto}-greek-400-normal.woff`,
		`${arabic}-400-normal.woff`
	],
	bold: [
		`${family}-latin-600-normal.woff`,
		`${family}-latin-ext-600-normal.woff`,
		`${noto}-latin-ext-600-normal.woff`,
		`${noto}-vietnamese-600-normal.woff`,
		`${noto}-cyrillic-600-normal.woff`,
		`${noto}-greek-600-normal.woff`,
		`${arabic}-600-normal.woff`
	]
} as const;
type Weight = keyof typeof files;

interface Face {
	hasGlyphForCodePoint(point: number): boolean;
}

/** Writes on a page with whichever font has the letters. */
class Pen {
	readonly doc: PDFKit.PDFDocument;
	readonly #faces: Record<Weight, { name: string; face: Face }[]>;

	constructor(doc: PDFKit.PDFDocument) {
		this.doc = doc;
		const register = (weight: Weight) =>
			files[weight].map((file, i) => {
				const name = `${weight}${i}`;
				doc.registerFont(name, fontFile(file));
				doc.font(name);
				return { name, face: (doc as unknown as { _font: { font: Face } })._font.font };
			});
		this.#faces = { plain: register('plain'), bold: register('bold') };
	}

	/** Stretches of a text that one font has all letters of. */
	#runs(text: string, weight: Weight): { font: string; text: string }[] {
		const faces = this.#faces[weight];
		const runs: { font: string; text: string }[] = [];
		for (const char of text) {
			const point = char.codePointAt(0)!;
			const last = runs.at(-1);
			const fits = faces.find((f) => f.face.hasGlyphForCodePoint(point)) ?? faces[0]!;
			// A space belongs to what stands before it.
			if (last && (fits.name === last.font || char === ' ')) last.text += char;
			else runs.push({ font: fits.name, text: char });
		}
		return runs;
	}

	/** Writes a paragraph at the present place, or at x and y. */
	write(
		text: string,
		size: number,
		{
			weight = 'plain',
			color = ink,
			x,
			y,
			width,
			align = 'left'
		}: {
			weight?: Weight;
			color?: string;
			x?: number;
			y?: number;
			width?: number;
			align?: 'left' | 'right';
		} = {}
	): void {
		const { doc } = this;
		const runs = this.#runs(text.replace(/\s+/g, ' '), weight);
		doc.fontSize(size).fillColor(color);
		// Right-aligned text is figures, and one run.
		runs.forEach((run, i) => {
			const options = { width, align, lineGap: 2, continued: i < runs.length - 1 };
			doc.font(run.font);
			if (i === 0 && x !== undefined) doc.text(run.text, x, y ?? doc.y, options);
			else doc.text(run.text, options);
		});
	}

	get left(): number {
		return this.doc.page.height - margin - this.doc.y;
	}
}

/** How reading grew, as a line in steps with its ends named. */
function drawGrowth(pen: Pen, growth: Growth, all: number): void {
	const { doc } = pen;
	const [x, y, width, height] = [margin, doc.y + 4, doc.page.width - 2 * margin, 70] as const;
	const end = Math.max(1, growth.curve.at(-1)!.minutes);
	const px = (minutes: number) => x + (width * minutes) / end;
	const py = (count: number) => y + height - (height * count) / Math.max(1, all);
	doc.lineWidth(0.5).strokeColor(line);
	for (const share of [0, 0.5, 1])
		doc
			.moveTo(x, py(share * all))
			.lineTo(x + width, py(share * all))
			.stroke();
	doc.lineWidth(1.4).strokeColor(action).moveTo(px(0), py(0));
	let before = 0;
	for (const { minutes, count } of growth.curve) {
		doc.lineTo(px(minutes), py(before)).lineTo(px(minutes), py(count));
		before = count;
	}
	doc.stroke();
	pen.write(`${all}`, 8, { color: quiet, x: x + width - 60, y: y + 2, width: 60, align: 'right' });
	pen.write('as it left', 8, { color: quiet, x, y: y + height + 3, width: 120 });
	pen.write(`after ${stretchWords(end)}`, 8, {
		color: quiet,
		x: x + width - 120,
		y: y + height + 3,
		width: 120,
		align: 'right'
	});
	doc.x = margin;
	doc.y = y + height + 18;
}

/** The account of a dispatch as a PDF, US letter: one or two pages of numbers, what one would hand to a principal, and then the names. */
export async function accountPdf(
	account: Account,
	district: string,
	growth: Growth | null,
	all: number,
	lists: AccountLists
): Promise<Buffer> {
	const doc = new PDFDocument({
		size: 'LETTER',
		margins: { top: margin, left: margin, right: margin, bottom: margin },
		bufferPages: true,
		lang: 'en',
		info: { Title: account.title, Author: district }
	});
	const chunks: Buffer[] = [];
	doc.on('data', (chunk: Buffer) => chunks.push(chunk));
	const done = new Promise<void>((resolve) => doc.on('end', resolve));
	const pen = new Pen(doc);
	const width = doc.page.width - 2 * margin;
	pen.write(`Report of a dispatch · ${district}`, 9, { color: quiet });
	doc.moveDown(0.4);
	pen.write(account.title, 13, { weight: 'bold' });
	doc.moveDown(0.2);
	pen.write(account.sentence, 19, { weight: 'bold', color: action });
	doc.moveDown(0.3);
	for (const about of account.about) pen.write(about, 10);

	/** Makes sure of some room: goes on to another page, and says no at the end of the last. */
	const room = (height: number, pages = mostPages): boolean => {
		if (pen.left >= height) return true;
		if (doc.bufferedPageRange().count >= pages) return false;
		doc.addPage();
		return true;
	};
	const cut = (more: number) =>
		pen.write(`and ${more} more, in Reach and its CSV`, 9, { color: quiet });

	for (const [n, part] of account.parts.entries()) {
		if (!room(80)) {
			const rest = account.parts.slice(n).map((p) => p.name);
			pen.write(`Not on these pages, but in Reach: ${rest.join(', ')}`, 9, { color: quiet });
			break;
		}
		doc.moveDown(0.7);
		pen.write(part.heading, 11, { weight: 'bold' });
		doc.moveDown(0.15);
		if (part.key === 'growth' && growth && pen.left > 150) {
			drawGrowth(pen, growth, all);
		}
		for (const [i, r] of part.rows.entries()) {
			// Two lines of the row itself, and one to say that there is more.
			if (!room(54)) {
				cut(part.rows.length - i);
				break;
			}
			const y = doc.y + 2;
			doc
				.lineWidth(0.5)
				.strokeColor(line)
				.moveTo(margin, y)
				.lineTo(margin + width, y)
				.stroke();
			pen.write(r.value, 10, { weight: 'bold', x: margin, y: y + 3, width: 76, align: 'right' });
			const noteWidth = r.note ? 190 : 0;
			pen.write(r.label, 10, { x: margin + 88, y: y + 3, width: width - 96 - noteWidth });
			const below = doc.y;
			if (r.note) {
				pen.write(r.note, 9, {
					color: quiet,
					x: margin + width - noteWidth,
					y: y + 3.5,
					width: noteWidth
				});
			}
			doc.y = Math.max(below, doc.y);
			doc.x = margin;
		}
	}
	const list = (heading: string, names: readonly string[], inAll: number) => {
		if (names.length === 0) return;
		if (!room(70, mostPagesWithNames)) return pen.write(`${heading}: in Reach and its CSV`, 9);
		doc.moveDown(0.7);
		pen.write(`${heading}: ${inAll}`, 11, { weight: 'bold' });
		for (const [i, name] of names.entries()) {
			if (!room(40, mostPagesWithNames)) return cut(inAll - i);
			pen.write(name, 9);
		}
		if (inAll > names.length) cut(inAll - names.length);
	};
	list('Not covered', lists.notCovered, lists.notCoveredInAll);
	list('Left out', lists.leftOut, lists.leftOutInAll);
	const { count } = doc.bufferedPageRange();
	for (let i = 0; i < count; i += 1) {
		doc.switchToPage(i);
		doc.page.margins.bottom = 0;
		pen.write(`${i + 1} of ${count}`, 8, {
			color: quiet,
			x: margin,
			y: doc.page.height - 36,
			width,
			align: 'right'
		});
	}
	doc.end();
	await done;
	return Buffer.concat(chunks);
}
