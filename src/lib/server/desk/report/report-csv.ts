import { writeCsv } from '../../../core/format/csv';
import { languagesWords } from '../../../core/copy/language';
import { ways } from '../../../core/roster/way';
import { silences } from '../../../core/track/silent';
import { silenceWords } from '../../../core/track/silent-words';
import type { SilentCounts } from '../silent/types';
import type { TermReport } from './types';

type Line = readonly (string | number)[];

const silentLines = (when: string, counts: SilentCounts): Line[] => [
	['families that nothing reached', when, 'all', counts.silent, counts.homes],
	...silences.map((kind): Line => [
		...['families that nothing reached', when, silenceWords[kind].name],
		...[counts.kinds[kind], counts.homes]
	]),
	['families that nothing reached', when, 'spoken to', counts.spoken, counts.homes]
];

/** The report as CSV: each figure as a line with its count, and of how many. */
export function reportCsv(report: TermReport): string {
	const { term, school, weeks, days, languages, silent, partCents } = report;
	return writeCsv([
		['part', 'of', 'what', 'count', 'of how many'],
		['term', term.name, 'students', report.students, ''],
		['term', school, `starts ${term.startsOn}, ends ${term.endsOn}`, '', ''],
		...weeks.flatMap((week): Line[] => {
			const line = (what: string, n: number, of: number | '' = ''): Line => [
				...['week', week.from, what, n, of]
			];
			return [
				line('dispatches', week.dispatches),
				line('dispatches that may yet be read in time', week.running, week.dispatches),
				line(`covered within ${days} days`, week.covered, week.of),
				line('messages to families', week.messages, week.homes),
				line('most messages to one family', week.most),
				...ways.flatMap((way) => [
					line(`${way}: arrived`, week.ways[way].arrived, week.ways[way].copies),
					line(`${way}: read`, week.ways[way].read, week.ways[way].copies)
				]),
				line('parts of texts', week.parts),
				line('texts whose parts were not kept', week.partsUnknown, week.ways.text.copies),
				line('addresses that fail since then', week.failing),
				line('addresses mended', week.mended)
			];
		}),
		['cost', 'one part of a text', 'cents', partCents, ''],
		...languages.map((l): Line => [
			...['language', l.tags === '' ? 'nobody to read' : languagesWords(l.tags)],
			...[`covered within ${days} days`, l.covered, l.of]
		]),
		...(silent
			? [...silentLines('first 30 days', silent.then), ...silentLines('last 30 days', silent.now)]
			: [])
	]);
}
