/** Signs that are not seen: controls, and what turns or hides letters. The two joiners stay: Persian and Indic names need them. */
const unseen = /(?![\u200c\u200d])[\p{Cc}\p{Cf}]/gu;
const plain = /^[!-~](?:[ -~]*[!-~])?$/;
const doubleSpace = / {2}/;
/** An apostrophe that was put before a cell, so that no spreadsheet runs it as a formula. */
const guarded = /^'(?=[=+\-@])/;

/** A cell as it is meant: composed (Unicode NFC), without unseen signs, with single blanks and none at its ends. */
export function tidy(cell: string): string {
	if (cell === '') return cell;
	// Most cells are short and plain: nothing has to be made anew.
	if (plain.test(cell) && !doubleSpace.test(cell))
		return cell.startsWith("'") ? cell.replace(guarded, '') : cell;
	return cell
		.normalize('NFC')
		.replace(/[\s\p{Z}]+/gu, ' ')
		.replace(unseen, '')
		.trim()
		.replace(guarded, '');
}

const days = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

/** Whether a text is a day of the calendar as ISO 8601 writes it, of this century or the last. */
export function isDay(text: string): boolean {
	const parts = /^((?:19|20)\d\d)-(\d\d)-(\d\d)$/.exec(text);
	if (!parts) return false;
	const [year, month, day] = parts.slice(1).map(Number) as [number, number, number];
	const leap = year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0);
	const most = month === 2 && leap ? 29 : (days[month - 1] ?? 0);
	return day >= 1 && day <= most;
}
