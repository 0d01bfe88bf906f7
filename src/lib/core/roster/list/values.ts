import { DateTime } from 'luxon';
import { fold } from '../../format/fold';
import { tagOfLanguage } from '../../copy/language';

const yes = new Set('yes y true t 1 x si sim oui'.split(' '));
const no = new Set('no n false f 0 nao non none'.split(' '));

/** A yes or a no as lists write them; undefined for anything else. */
export function readYes(text: string): boolean | undefined {
	const word = fold(text.trim());
	return yes.has(word) ? true : no.has(word) ? false : undefined;
}

/** The tag of a language (BCP 47) by its English name or its tag; undefined for what is none. */
export const readLanguage = (text: string): string | undefined => tagOfLanguage(text.trim());

/** Which of two figures of a date comes first where the words do not tell. */
export type DateOrder = 'month-first' | 'day-first';

const formats: Readonly<Record<DateOrder, readonly string[]>> = {
	'month-first': ['M/d/yyyy', 'M-d-yyyy', 'M.d.yyyy'],
	'day-first': ['d/M/yyyy', 'd-M-yyyy', 'd.M.yyyy']
};
const plain = ['yyyy-MM-dd', 'd MMM yyyy', 'd MMMM yyyy', 'MMM d, yyyy', 'MMMM d, yyyy'];

/** A day as lists write it, as an ISO date; undefined for what is none. A time behind an ISO date is passed over. */
export function readDay(text: string, order: DateOrder): string | undefined {
	const value = text.trim().replace(/^(\d{4}-\d\d-\d\d)[T ].*$/, '$1');
	for (const format of [...plain, ...formats[order]]) {
		const day = DateTime.fromFormat(value, format, { locale: 'en', zone: 'utc' });
		if (day.isValid) return day.toISODate();
	}
	return undefined;
}

/** Which order the dates of a column are in: the day comes first where some of them can be read in no other way. */
export function orderOf(cells: readonly string[]): DateOrder {
	const read = (order: DateOrder) => cells.filter((c) => readDay(c, order) !== undefined).length;
	return read('day-first') > read('month-first') ? 'day-first' : 'month-first';
}
