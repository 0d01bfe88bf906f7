import { languageDirection } from '../../../core/copy/direction';
import { joinPhrases, type JoinPhrases } from '../../../core/copy/join-phrases';
import { dayWords } from '../../paper/day-words';
import { drawPaper } from '../../paper/draw-paper';
import { line as lineColor, Pen, quiet } from '../../paper/pen';
import { drawCode } from '../../paper/qr-code';
import type { PaperSize } from '../../paper/sizes';
import type { WaysIn } from './types';

const margin = 54;
const codeSide = 150;
const small = 9.5;
/** Room for the word before a day in a language that runs from right to left. */
const wordWidth = 30;
/** More languages than this leave no room for the ways. */
const mostLanguages = 5;

/** A page being written, and the languages on it. */
interface Sheet {
	readonly pen: Pen;
	readonly languages: readonly (JoinPhrases & { readonly tag: string })[];
	readonly width: number;
}

/** The same in every language, a line each: no name stands in it, so that none is put into a sentence that runs the other way. */
function inEach(
	{ pen, languages }: Sheet,
	wordsOf: (words: JoinPhrases & { readonly tag: string }) => string,
	width: number
): void {
	for (const words of languages)
		pen.write(wordsOf(words), small, {
			...{ x: margin, width },
			align: languageDirection(words.tag) === 'rtl' ? 'right' : 'left',
			color: quiet
		});
}

/** One way in: what is typed, and in each language what to do with it. */
function way(sheet: Sheet, value: string, phrase: 'byText' | 'byMail' | 'byLink'): void {
	const { doc } = sheet.pen;
	doc.y += 7;
	doc
		.moveTo(margin, doc.y)
		.lineTo(margin + sheet.width, doc.y)
		.lineWidth(0.75)
		.strokeColor(lineColor)
		.stroke();
	doc.y += 8;
	inEach(sheet, (words) => words[phrase], sheet.width);
	doc.y += 2;
	sheet.pen.write(value, 18, { x: margin, width: sheet.width, weight: 'bold' });
}

/** The last day in each language, one after another; where a language runs the other way its word and the day are set apart, since figures run from left to right. */
function untilDay({ pen, languages, width }: Sheet, day: string): void {
	const other = (words: { readonly tag: string }) => languageDirection(words.tag) === 'rtl';
	const all = languages.filter((words) => !other(words));
	const said = all.map((words) => `${words.until} ${dayWords(words.tag, day)}`).join(' · ');
	const of = { x: margin, color: quiet };
	if (said !== '') pen.write(said, small, { ...of, width });
	for (const words of languages.filter(other)) {
		const { y } = pen.doc;
		pen.write(words.until, small, { ...of, y, width, align: 'right' });
		pen.write(day, small, { ...of, y, width: width - wordWidth, align: 'right' });
	}
}

function drawSheet(sheet: Sheet, ways: WaysIn): void {
	const { pen, width } = sheet;
	const { doc } = pen;
	const beside = width - codeSide - 16;
	drawCode(doc, ways.link, margin + width - codeSide, margin, codeSide);
	doc.y = margin + 8;
	pen.write(ways.district, 12, { x: margin, width: beside, color: quiet });
	doc.y += 8;
	pen.write(ways.group, 26, { x: margin, width: beside, weight: 'bold' });
	doc.y += 8;
	pen.write(ways.code, 40, { x: margin, width: beside, weight: 'bold' });
	doc.y = Math.max(doc.y, margin + codeSide);
	if (ways.number !== null) way(sheet, ways.number, 'byText');
	way(sheet, ways.mail, 'byMail');
	way(sheet, ways.link, 'byLink');
	doc.y += 12;
	inEach(sheet, (words) => words.then, width);
	if (ways.until === null) return;
	doc.y += 6;
	untilDay(sheet, ways.until);
}

/** A sheet of paper that says in a group's families' languages how it is joined. */
export async function joiningSheet(ways: WaysIn, size: PaperSize): Promise<Uint8Array> {
	return drawPaper({ title: ways.group, author: ways.district, size, bottom: 36 }, (pen) => {
		const { doc } = pen;
		const languages = ways.languages.slice(0, mostLanguages).map((tag) => joinPhrases(tag));
		drawSheet({ pen, languages, width: doc.page.width - 2 * margin }, ways);
	});
}
