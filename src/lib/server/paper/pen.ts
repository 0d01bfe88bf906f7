import { createRequire } from 'node:module';

/** The colours and the margin of our papers. */
const ink = '#1d2b33';
export const quiet = '#55636b';
export const line = '#ddd5c6';
export const action = '#0f5c63';
export const margin = 54;

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

const rightToLeft = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc]/;

interface Face {
	hasGlyphForCodePoint(point: number): boolean;
}

/** Writes on a page with whichever font has the letters. */
export class Pen {
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
			const options = {
				...{ width, align, lineGap: 2, continued: i < runs.length - 1 },
				// Laid out as a whole: word by word an Arabic line would run from left to right.
				...(rightToLeft.test(run.text) ? { features: [] } : {})
			};
			doc.font(run.font);
			if (i === 0 && x !== undefined) doc.text(run.text, x, y ?? doc.y, options);
			else doc.text(run.text, options);
		});
	}

	/** Draws a thin line across the page, `gap` points below the present place; where that is. */
	rule(gap: number): number {
		const { doc } = this;
		const y = doc.y + gap;
		doc
			.lineWidth(0.5)
			.strokeColor(line)
			.moveTo(margin, y)
			.lineTo(doc.page.width - margin, y)
			.stroke();
		return y;
	}

	/** What is left of the page below the present place, in points. */
	get left(): number {
		return this.doc.page.height - margin - this.doc.y;
	}
}
