import type { Account } from '../../../core/track/account';
import type { Growth } from '../../../core/track/growth';
import { stretchWords } from '../../../core/time/stretch';
import { drawPaper } from '../../paper/draw-paper';
import { action, line, margin, Pen, quiet } from '../../paper/pen';

type Row = Account['parts'][number]['rows'][number];

/** Names that follow the numbers, and how many there are of each in all. */
interface AccountLists {
	/** "Ana Amaro, Drama 7-A". */
	readonly notCovered: readonly string[];
	readonly notCoveredInAll: number;
	/** "Paulo Amaro, for Ana: No email address on file". */
	readonly leftOut: readonly string[];
	readonly leftOutInAll: number;
}

/** What one hands to a principal is read at a glance: the numbers take two pages at most. The names follow. */
const mostPages = 2;
/** More paper than this nobody reads; the file has them all. */
const mostPagesWithNames = 40;

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

/** Pages that are filled from the top; a part asks for the room it needs. */
class Paper {
	constructor(
		readonly pen: Pen,
		readonly doc: PDFKit.PDFDocument
	) {}

	get width(): number {
		return this.doc.page.width - 2 * margin;
	}

	/** Makes sure of some room: goes on to another page, and says no at the end of the last. */
	room(height: number, pages = mostPages): boolean {
		if (this.pen.left >= height) return true;
		if (this.doc.bufferedPageRange().count >= pages) return false;
		this.doc.addPage();
		return true;
	}

	/** Says how much more there would be. */
	cut(more: number): void {
		this.pen.write(`and ${more} more, in Reach and its CSV`, 9, { color: quiet });
	}
}

/** One row of a part: a rule, the figure, what it counts and a remark. */
function drawRow({ pen, doc, width }: Paper, { value, label, note }: Row): void {
	const y = pen.rule(2);
	pen.write(value, 10, { weight: 'bold', x: margin, y: y + 3, width: 76, align: 'right' });
	const noteWidth = note ? 190 : 0;
	pen.write(label, 10, { x: margin + 88, y: y + 3, width: width - 96 - noteWidth });
	const below = doc.y;
	if (note) {
		const x = margin + width - noteWidth;
		pen.write(note, 9, { color: quiet, x, y: y + 3.5, width: noteWidth });
	}
	doc.y = Math.max(below, doc.y);
	doc.x = margin;
}

/** The parts of an account; what finds no room is named. */
function drawParts(
	paper: Paper,
	parts: Account['parts'],
	growth: Growth | null,
	all: number
): void {
	const { pen, doc } = paper;
	for (const [n, part] of parts.entries()) {
		if (!paper.room(80)) {
			const rest = parts.slice(n).map((p) => p.name);
			pen.write(`Not on these pages, but in Reach: ${rest.join(', ')}`, 9, { color: quiet });
			return;
		}
		doc.moveDown(0.7);
		pen.write(part.heading, 11, { weight: 'bold' });
		doc.moveDown(0.15);
		if (part.key === 'growth' && growth && pen.left > 150) drawGrowth(pen, growth, all);
		for (const [i, row] of part.rows.entries()) {
			// Two lines of the row itself, and one to say that there is more.
			if (!paper.room(54)) {
				paper.cut(part.rows.length - i);
				break;
			}
			drawRow(paper, row);
		}
	}
}

/** Names below a heading, as far as the paper goes. */
function drawNames(paper: Paper, heading: string, names: readonly string[], inAll: number): void {
	const { pen, doc } = paper;
	if (names.length === 0) return;
	if (!paper.room(70, mostPagesWithNames)) return pen.write(`${heading}: in Reach and its CSV`, 9);
	doc.moveDown(0.7);
	pen.write(`${heading}: ${inAll}`, 11, { weight: 'bold' });
	for (const [i, name] of names.entries()) {
		if (!paper.room(40, mostPagesWithNames)) return paper.cut(inAll - i);
		pen.write(name, 9);
	}
	if (inAll > names.length) paper.cut(inAll - names.length);
}

/** What stands on the paper of an account. */
interface AccountPaper {
	readonly account: Account;
	/** The district's name. */
	readonly district: string;
	readonly growth: Growth | null;
	/** Students (or recipients) in all, the top of the curve. */
	readonly all: number;
	readonly lists: AccountLists;
}

/** The account of a dispatch as a PDF, US letter: one or two pages of numbers, what one would hand to a principal, and then the names. */
export async function accountPdf({
	account,
	district,
	growth,
	all,
	lists
}: AccountPaper): Promise<Buffer> {
	return drawPaper(
		{ title: account.title, author: district, language: 'en', numbered: true },
		(pen) => {
			const { doc } = pen;
			const paper = new Paper(pen, doc);
			pen.write(`Report of a dispatch · ${district}`, 9, { color: quiet });
			doc.moveDown(0.4);
			pen.write(account.title, 13, { weight: 'bold' });
			doc.moveDown(0.2);
			pen.write(account.sentence, 19, { weight: 'bold', color: action });
			doc.moveDown(0.3);
			for (const about of account.about) pen.write(about, 10);
			drawParts(paper, account.parts, growth, all);
			drawNames(paper, 'Not covered', lists.notCovered, lists.notCoveredInAll);
			drawNames(paper, 'Left out', lists.leftOut, lists.leftOutInAll);
		}
	);
}
