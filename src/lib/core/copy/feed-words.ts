import { DateTime } from 'luxon';
import { fieldTag } from './template';

/** An entry of a feed as a wording takes it: words of somebody outside, which are words and nothing else. */
export interface FilledEntry {
	readonly title: string;
	/** Paragraphs, an empty line between them. */
	readonly words: string;
	/** http or https; null where there is none. */
	readonly link: string | null;
	/** Its picture, kept with us; null where there is none. */
	readonly picture: { readonly fileId: number; readonly width: number | null } | null;
	/** When it says it was written (instant, ms). */
	readonly at: number | null;
}

/** Words of an entry beyond which the rest is behind its link. */
const mostWords = 4_000;
/** Of a subject, so that a title fits on a line. */
export const mostInLine = 200;
/** Words as they may stand in a template: braces, which fields are made of, become round. */
export const inert = (text: string): string => text.replace(/\{/g, '(').replace(/\}/g, ')');

/** The beginning of a text, cut at the end of a word. */
export function cut(text: string, most: number): string {
	if (text.length <= most) return text;
	const part = text.slice(0, most - 1);
	const end = part.search(/\s\S*$/);
	return `${(end > most / 2 ? part.slice(0, end) : part).replace(/[\uD800-\uDBFF]$/, '').trimEnd()}…`;
}

/** A field that says a moment, in each reader's language and by their clock. */
export const timeField = (at: number, zone: string): string =>
	`date:${DateTime.fromMillis(at, { zone }).toFormat("yyyy-MM-dd'T'HH:mm")}`;

/** What a field says on one line. */
export function feedLine(entry: FilledEntry | undefined, name: string, zone: string): string {
	if (!entry) return '';
	switch (name) {
		case 'feed_title':
			return inert(cut((entry.title || entry.words).replace(/\s+/g, ' '), mostInLine));
		case 'feed_words':
			return inert(cut(entry.words, mostWords));
		case 'feed_link':
			return entry.link === null ? '' : inert(entry.link);
		case 'feed_time':
			return entry.at === null ? '' : fieldTag(timeField(entry.at, zone), '');
		default:
			return '';
	}
}

const feedTag = /\{\{\s*(feed_[a-z]+)\s*\}\}/g;
/** The fields of a feed that a template names. */
export const takenIn = (text: string): string[] => [...text.matchAll(feedTag)].map((m) => m[1]!);
/** Parts that stand or fall with a field, which a feed's are not: an entry without it leaves its line out. */
export const feedPart = /\{\{\s*[#^/]\s*feed_[a-z]+\s*\}\}/g;
export const namesFeed = (text: string): boolean => /\{\{\s*[#^/]?\s*feed_[a-z]+\s*\}\}/.test(text);

/** Whether an entry has any of what is taken; a line that is there for what it has not is left out. */
export const hasSome = (taken: readonly string[], entry: FilledEntry, zone: string): boolean =>
	taken.length === 0 || taken.some((name) => feedLine(entry, name, zone) !== '');

/** A template on one line or several, filled: the lines from the first that takes something to the last stand for each entry. */
export function fillLines(text: string, entries: readonly FilledEntry[], zone: string): string {
	const lines = text.replace(feedPart, '').split('\n');
	const first = lines.findIndex(namesFeed);
	if (first < 0) return text;
	const last = lines.findLastIndex(namesFeed);
	const part = lines.slice(first, last + 1);
	const filled = entries.map((entry) =>
		part
			.filter((l) => hasSome(takenIn(l), entry, zone))
			.map((l) => l.replace(feedTag, (_, name: string) => feedLine(entry, name, zone)))
			.join('\n')
	);
	return [...lines.slice(0, first), ...filled, ...lines.slice(last + 1)].join('\n');
}

/** A subject takes the first entry alone, on its one line. */
export const fillSubject = (text: string, entries: readonly FilledEntry[], zone: string): string =>
	text
		.replace(feedPart, '')
		.replace(feedTag, (_, name: string) =>
			cut(feedLine(entries[0], name, zone).replace(/\s+/g, ' '), mostInLine)
		);
