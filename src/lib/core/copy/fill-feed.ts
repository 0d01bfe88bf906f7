import type { Block, Doc, Inline, Mark } from './doc';
import { inlinesIn, isLinkAddress } from './doc';
import { isFeedField } from './fields';
import {
	cut,
	feedLine,
	feedPart,
	fillLines,
	fillSubject,
	hasSome,
	inert,
	mostInLine,
	namesFeed,
	takenIn,
	timeField,
	type FilledEntry
} from './feed-words';
import { wordsMark } from './stale';
import type { LetterWords, Words, Wording } from './words';

/** As wide as a picture stands in a letter, px. */
const widest = 560;

/** The fields of a feed that a run names. */
const takenBy = (run: Inline): string[] =>
	run.type === 'field'
		? [run.attrs.name].filter(isFeedField)
		: run.type === 'text'
			? takenIn(run.text)
			: [];

const takes = (run: Inline): boolean =>
	run.type === 'field' ? isFeedField(run.attrs.name) : run.type === 'text' && namesFeed(run.text);

/** Whether a block takes something of a feed, at any depth. */
function blockTakes(block: Block): boolean {
	switch (block.type) {
		case 'paragraph':
		case 'heading':
			return (block.content ?? []).some(takes);
		case 'bulletList':
		case 'orderedList':
			return block.content.some((item) => item.content.some(blockTakes));
		case 'table':
			return block.content.some((row) => row.content.some((cell) => cell.content.some(blockTakes)));
		default:
			return false;
	}
}

/** From the first to the last that takes something, for each entry; those around stand once. */
function repeated<T>(
	list: readonly T[],
	test: (one: T) => boolean,
	entries: readonly FilledEntry[],
	fill: (part: readonly T[], entry: FilledEntry) => readonly T[]
): T[] {
	const first = list.findIndex(test);
	if (first < 0) return [...list];
	const last = list.findLastIndex(test);
	const part = list.slice(first, last + 1);
	return [
		...list.slice(0, first),
		...entries.flatMap((entry) => fill(part, entry)),
		...list.slice(last + 1)
	];
}

const withMarks = (text: string, marks: readonly Mark[] | undefined): Inline[] =>
	text === '' ? [] : [{ type: 'text', text, ...(marks?.length ? { marks: [...marks] } : {}) }];

/** A text of several lines as runs. */
const runsOf = (text: string, marks: readonly Mark[] | undefined): Inline[] =>
	text
		.split('\n')
		.flatMap((l, i): Inline[] => [
			...(i > 0 ? [{ type: 'hardBreak' as const }] : []),
			...withMarks(l, marks)
		]);

/** A field of an entry as runs. */
function fieldRuns(
	entry: FilledEntry,
	name: string,
	zone: string,
	marks: readonly Mark[] | undefined
): Inline[] {
	if (name === 'feed_time') {
		return entry.at === null
			? []
			: [
					{
						type: 'field',
						attrs: { name: timeField(entry.at, zone), fallback: '' },
						...(marks?.length ? { marks: [...marks] } : {})
					}
				];
	}
	const said = feedLine(entry, name, zone);
	const link = name === 'feed_link' && isLinkAddress(said);
	return runsOf(
		said,
		link
			? [...(marks ?? []).filter((m) => m.type !== 'link'), { type: 'link', attrs: { href: said } }]
			: marks
	);
}

/** The runs of a paragraph, filled; a field that was typed in braces is one too. */
const fillRuns = (runs: readonly Inline[], entry: FilledEntry, zone: string): Inline[] =>
	runs.flatMap((run): Inline[] => {
		if (run.type === 'field')
			return isFeedField(run.attrs.name)
				? fieldRuns(entry, run.attrs.name, zone, run.marks)
				: [run];
		if (run.type !== 'text' || !namesFeed(run.text)) return [run];
		return run.text
			.replace(feedPart, '')
			.split(/(\{\{\s*feed_[a-z]+\s*\}\})/)
			.flatMap((piece) => {
				const name = /^\{\{\s*(feed_[a-z]+)\s*\}\}$/.exec(piece)?.[1];
				return name ? fieldRuns(entry, name, zone, run.marks) : withMarks(piece, run.marks);
			});
	});

/** The one field that a paragraph is there for; null where it says anything else. */
function loneField(runs: readonly Inline[]): string | null {
	const said = runs.filter((r) => r.type !== 'text' || r.text.trim() !== '');
	const [only] = said;
	if (said.length !== 1 || !only) return null;
	if (only.type === 'field') return only.attrs.name;
	return only.type === 'text'
		? (/^\s*\{\{\s*(feed_[a-z]+)\s*\}\}\s*$/.exec(only.text)?.[1] ?? null)
		: null;
}

/** A block filled with one entry: none where it was there for what the entry has not, several where its words have paragraphs. */
function fillBlock(block: Block, entry: FilledEntry, zone: string): Block[] {
	const inside = (list: readonly Block[]): Block[] => {
		const filled = list.flatMap((b) => fillBlock(b, entry, zone));
		return filled.length > 0 ? filled : [{ type: 'paragraph' }];
	};
	switch (block.type) {
		case 'paragraph':
		case 'heading': {
			const runs = block.content ?? [];
			if (!runs.some(takes)) return [block];
			const lone = loneField(runs);
			if (lone === 'feed_picture') {
				return entry.picture === null
					? []
					: [
							{
								type: 'picture',
								attrs: {
									fileId: entry.picture.fileId,
									alt: cut(inert(entry.title), mostInLine),
									width:
										entry.picture.width === null
											? null
											: Math.max(16, Math.min(widest, entry.picture.width))
								}
							}
						];
			}
			if (lone === 'feed_words' && block.type === 'paragraph') {
				const marks = runs.find(takes)?.marks;
				return feedLine(entry, lone, zone)
					.split(/\n{2,}/)
					.map((p) => runsOf(p.trim(), marks))
					.filter((content) => content.length > 0)
					.map((content): Block => ({ type: 'paragraph', content }));
			}
			return hasSome(runs.flatMap(takenBy), entry, zone)
				? [{ ...block, content: fillRuns(runs, entry, zone) }]
				: [];
		}
		case 'bulletList':
		case 'orderedList':
			return [
				{
					...block,
					content: block.content.map((item) => ({ ...item, content: inside(item.content) }))
				}
			];
		case 'table':
			return [
				{
					...block,
					content: block.content.map((row) => ({
						...row,
						content: row.content.map((cell) => ({ ...cell, content: inside(cell.content) }))
					}))
				}
			];
		default:
			return [block];
	}
}

/** A doc filled: what stands from its first block that takes something to its last, for each entry; of a list its points, of a table its rows. */
function fillDoc(doc: Doc, entries: readonly FilledEntry[], zone: string): Doc {
	const taking = doc.content.filter(blockTakes);
	const [only] = taking;
	const fillAll = (part: readonly Block[], entry: FilledEntry) =>
		part.flatMap((b) => fillBlock(b, entry, zone));
	if (taking.length === 1 && (only?.type === 'bulletList' || only?.type === 'orderedList')) {
		const content = repeated(
			only.content,
			(item) => item.content.some(blockTakes),
			entries,
			(part, entry) =>
				part.map((item) => ({ ...item, content: orEmpty(fillAll(item.content, entry)) }))
		);
		return { ...doc, content: doc.content.map((b) => (b === only ? { ...only, content } : b)) };
	}
	if (taking.length === 1 && only?.type === 'table') {
		const content = repeated(
			only.content,
			(row) => row.content.some((cell) => cell.content.some(blockTakes)),
			entries,
			(part, entry) =>
				part.map((row) => ({
					...row,
					content: row.content.map((cell) => ({
						...cell,
						content: orEmpty(fillAll(cell.content, entry))
					}))
				}))
		);
		return { ...doc, content: doc.content.map((b) => (b === only ? { ...only, content } : b)) };
	}
	return { ...doc, content: orEmpty(repeated(doc.content, blockTakes, entries, fillAll)) };
}

const orEmpty = (blocks: readonly Block[]): Block[] =>
	blocks.length > 0 ? [...blocks] : [{ type: 'paragraph' }];

/** The fields of a feed that words take, by any way. */
export function feedTaken(words: Words): ReadonlySet<string> {
	const { email, inbox, text } = words.own;
	const letters = [words, email, inbox].flatMap((letter) => letter ?? []);
	return new Set([
		...[...letters.map((l) => l.subject), text?.text ?? ''].flatMap(takenIn),
		...letters.flatMap((l) => [...inlinesIn(l.body)].flatMap(takenBy))
	]);
}

function fillWords(words: Words, entries: readonly FilledEntry[], zone: string): Words {
	const letter = ({ subject, body }: LetterWords): LetterWords => ({
		subject: fillSubject(subject, entries, zone),
		body: fillDoc(body, entries, zone)
	});
	const { email, inbox, text } = words.own;
	return {
		...letter(words),
		own: {
			...(email ? { email: letter(email) } : {}),
			...(inbox ? { inbox: letter(inbox) } : {}),
			...(text ? { text: { ...text, text: fillLines(text.text, entries, zone) } } : {})
		}
	};
}

/**
 * A wording with entries of a feed in the place of its fields, in each of its languages. What stands between the
 * first place that takes something and the last is said for each entry, the newest first; the rest once. Words of a
 * feed stay words: no field, no link and no markup of theirs is any.
 */
export function fillFeed(wording: Wording, entries: readonly FilledEntry[], zone: string): Wording {
	const words = fillWords(wording.words, entries, zone);
	return {
		...wording,
		words,
		variants: wording.variants.map((v) => {
			// What was up to date with the original is so still.
			const same = wordsMark(v.basis) === wordsMark(wording.words);
			return { ...v, words: fillWords(v.words, entries, zone), basis: same ? words : v.basis };
		})
	};
}
