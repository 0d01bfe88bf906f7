import { count } from '../copy/count';
import type { ReportWeek } from './report-sums';

/** "84 % (1,203 of 1,432)"; nothing in percent of none. */
export const ofWords = (part: number, of: number): string =>
	of === 0 ? 'none' : `${Math.round((100 * part) / of)} % (${count(part)} of ${count(of)})`;

/** {@link ofWords} of a week; "so far" where some of its dispatches may yet be read in time. */
export const weekWords = ({
	covered,
	of,
	running
}: Pick<ReportWeek, 'covered' | 'of' | 'running'>) =>
	`${ofWords(covered, of)}${running > 0 ? ' so far' : ''}`;

/** What is said of dispatches that may yet be read in time; empty where there are none. */
export const runningWords = (running: number): string =>
	running === 0
		? ''
		: running === 1
			? 'For the last dispatch that time is not over.'
			: `For the last ${count(running)} dispatches that time is not over.`;

/** A cost in money, from parts of texts and the price of one in cents; with what nobody knows any more. */
export function costWords(parts: number, cents: number, unknown: number): string {
	if (parts === 0 && unknown > 0)
		return `of ${count(unknown)} ${unknown === 1 ? 'text' : 'texts'} parts were not kept`;
	const known =
		cents === 0
			? `${count(parts)} ${parts === 1 ? 'part' : 'parts'}`
			: `$${((parts * cents) / 100).toFixed(2)}, ${count(parts)} ${parts === 1 ? 'part' : 'parts'}`;
	return unknown === 0
		? known
		: `${known}; of ${count(unknown)} earlier ${unknown === 1 ? 'text' : 'texts'} parts were not kept`;
}

/** How many messages a family got on average: "2.4". */
export const perFamily = (messages: number, homes: number): string =>
	homes === 0 ? '0' : (messages / homes).toFixed(1);
