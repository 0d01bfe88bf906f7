import { checkMailAddress } from '../mail-address';
import { toE164 } from '../phone';
import { isDay, tidy } from './cells';
import type { Wrong } from './fault';

/** Longest name or title that is taken, and longest of any other cell. */
export const mostName = 200;
const mostCell = 2_000;

/** Ends the reading of a line that has to stay out. */
export class StaysOut extends Error {
	constructor(readonly wrong: Wrong) {
		super(wrong.code);
	}
}

/** The cells of one line, asked by the name of their column. */
export class LineCells {
	readonly faults: Wrong[] = [];
	constructor(
		readonly at: ReadonlyMap<string, number>,
		readonly cells: readonly string[],
		/** Where a number is of that names none (ISO 3166-1). */
		readonly country: string
	) {}

	/** What stands in a column, tidied; nothing where there is no such column. */
	text(column: string, most = mostCell): string {
		const at = this.at.get(column);
		const text = at === undefined ? '' : tidy(this.cells[at] ?? '');
		if (text.length > most)
			throw new StaysOut({ code: 'too-long', column, length: text.length, most });
		return text;
	}
	need(column: string, most = mostCell): string {
		const text = this.text(column, most);
		if (text === '') throw new StaysOut({ code: 'empty', column });
		return text;
	}
	/** One of a set of words, whatever the case; the standard also lets an extension stand there ("ext:nurse"), which is made into what it is here. */
	oneOf(column: string, of: readonly string[], extension?: (word: string) => string): string {
		const value = this.need(column, mostName);
		const found = of.find((word) => word.toLowerCase() === value.toLowerCase());
		if (found !== undefined) return found;
		if (extension && /^ext:./i.test(value)) return extension(value.slice(4).trim());
		throw new StaysOut({ code: 'not-one-of', column, value, of });
	}
	yes(column: string, otherwise: boolean): boolean {
		const value = this.text(column).toLowerCase();
		if (value === '') return otherwise;
		if (value === 'true' || value === '1' || value === 'yes') return true;
		if (value === 'false' || value === '0' || value === 'no') return false;
		this.faults.push({ code: 'not-one-of', column, value, of: ['true', 'false'] });
		return otherwise;
	}
	/** A day, or nothing. A time behind it is passed over: some write an instant where a date is asked for. */
	day(column: string): string | null {
		const value = this.text(column);
		if (value === '') return null;
		const day = value.slice(0, 10);
		if (!isDay(day) || (value.length > 10 && !/^[T ]\d\d:\d\d/.test(value.slice(10))))
			throw new StaysOut({ code: 'no-date', column, value });
		return day;
	}
	needDay(column: string): string {
		this.need(column);
		return this.day(column)!;
	}
	/** Several values in one cell, parted by commas. */
	list(column: string): string[] {
		const text = this.text(column, 20_000);
		return text === ''
			? []
			: [
					...new Set(
						text
							.split(',')
							.map((part) => part.trim())
							.filter(Boolean)
					)
				];
	}
	/** An address under a name, or nothing under it; no name where it is no address, or the file has no such column. */
	email<K extends string>(column: K): { readonly [C in K]?: string | null } {
		if (!this.at.has(column)) return {};
		const value = this.text(column);
		if (value === '') return { [column]: null } as { [C in K]: null };
		const mail = checkMailAddress(value);
		if (mail.ok) return { [column]: mail.value } as { [C in K]: string };
		this.faults.push({ code: 'no-address', column, value, why: mail.why });
		return {};
	}
	/** A number in E.164, as {@link email} has addresses. */
	phone<K extends string>(column: K): { readonly [C in K]?: string | null } {
		if (!this.at.has(column)) return {};
		const value = this.text(column);
		const phone = value === '' ? null : toE164(value, this.country);
		if (value !== '' && phone === null) {
			this.faults.push({ code: 'no-number', column, value });
			return {};
		}
		return { [column]: phone } as { [C in K]: string | null };
	}
	/** From the first of two days to before the second. */
	stretch(): { readonly beginDate: string | null; readonly endDate: string | null } {
		const beginDate = this.day('beginDate');
		const endDate = this.day('endDate');
		if (beginDate !== null && endDate !== null && endDate < beginDate)
			throw new StaysOut({ code: 'ends-before', starts: beginDate, ends: endDate });
		return { beginDate, endDate };
	}
}
