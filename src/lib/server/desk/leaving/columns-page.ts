import { escapeHtml } from '../../../core/copy/template';
import { leavingTables, staysHere, textsTable } from './tables';
import type { LeavingPart } from './types';

const beside: Readonly<Record<Exclude<LeavingPart, 'tables'>, readonly [string, string]>> = {
	letters: [
		'letters.mbox, letters/, answers.mbox',
		'What was said: for each dispatch one letter in each language, as one of its readers got it (mbox by RFC 4155, and each as a file of its own by RFC 5322); links in them lead to the page where a link is asked for. answers.mbox has what families wrote back, by whatever way.'
	],
	calendars: ['calendars/', 'The calendar, as iCalendar (RFC 5545).'],
	cards: ['cards/', 'Guardians by school, as vCards (RFC 6350).'],
	files: ['files/', 'Files of letters and answers, each under its hash; files.csv has their names.']
};

/** A page that says of each table and each of its columns what it holds; it goes with the tables. */
export function columnsPage(district: string, day: string, parts: readonly LeavingPart[]): string {
	const e = escapeHtml;
	const tables = [
		...(parts.includes('tables') ? leavingTables : []),
		...(parts.includes('letters') ? [textsTable] : [])
	];
	return [
		'<!doctype html><html lang="en"><meta charset="utf-8">',
		`<title>${e(district)}, ${e(day)}</title>`,
		'<style>body{font:16px sans-serif;max-width:60em;margin:2em auto;padding:0 1em}td,th{text-align:left;padding:.2em 1em .2em 0;vertical-align:top}code{font-size:1em}</style>',
		`<h1>What ${e(district)} took along on ${e(day)}</h1>`,
		'<p>Tables are CSV (RFC 4180, UTF-8) with a heading. Instants are UTC (ISO 8601), days ISO dates, yes and no words; what is empty is not known or does not apply. A cell that a spreadsheet would run as a formula has an apostrophe before it. While it was packed the work went on: a table may know a little more than one before it.</p>',
		...parts.flatMap((part) =>
			part === 'tables' ? [] : [`<p><code>${e(beside[part][0])}</code> ${e(beside[part][1])}</p>`]
		),
		...tables.map(
			({ name, about, columns }) =>
				`<h2><code>${e(name)}</code></h2><p>${e(about)}</p><table><tr><th>column</th><th>what it holds</th></tr>${columns
					.map(([c, means]) => `<tr><td><code>${e(c)}</code></td><td>${e(means)}</td></tr>`)
					.join('')}</table>`
		),
		'<h2>What is not in it</h2><ul>',
		...staysHere.map(([why, of]) => `<li>${e(why)} (${e(of.join(', '))})</li>`),
		'</ul></html>'
	].join('\n');
}
