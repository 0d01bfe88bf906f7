import Mustache from 'mustache';
import { isField } from './fields';

/**
 * Templates with merge fields, in the logic-less form of the Mustache specification: `{{student}}`
 * is the value; `{{^teacher}}the teacher{{/teacher}}` stands where there is none, `{{#teacher}}…
 * {{/teacher}}` only where there is one. Comments, partials, other delimiters and values that go in without
 * being escaped have no place here.
 */
export interface Template {
	/** The fields it uses, each once. */
	readonly fields: readonly string[];
	/** Fields that would leave a gap where they have no value: used, with nothing for the case that they are empty. */
	readonly bare: readonly string[];
	/** What is wrong with it, in plain words; one with problems is not sent. */
	readonly problems: readonly string[];
	render(values: Values): string;
}
/** What a field says, by its name; empty where it has no value. */
export type Values = (field: string) => string;
/** Values that are there already. */
export const valuesOf =
	(said: ReadonlyMap<string, string>): Values =>
	(field) =>
		said.get(field) ?? '';

/** How values go in: as they are, or as HTML text. */
export type Escape = 'none' | 'html';

type Token = [type: string, value: string, start: number, end: number, inner?: Token[]];

const htmlEscapes: Readonly<Record<string, string>> = {
	'&': '&amp;',
	'<': '&lt;',
	'>': '&gt;',
	'"': '&quot;',
	"'": '&#39;'
};
const needsEscape = /[&<>"']/;
/** Text as it may stand in HTML, also inside an attribute in double quotes. */
export const escapeHtml = (text: string): string =>
	// Most of what goes in has nothing to escape; to look is a third of replacing nothing.
	needsEscape.test(text) ? text.replace(/[&<>"']/g, (c) => htmlEscapes[c]!) : text;

/** A field as it stands in a template, with what stands where it is empty. */
export const fieldTag = (name: string, fallback: string): string =>
	`{{${name}}}${fallback === '' ? '' : `{{^${name}}}${fallback.replace(/[{}]/g, '')}{{/${name}}}`}`;

/** What the parser says, in our words. */
function plainProblem(message: string, text: string): string {
	const at = Number(/ at (\d+)$/.exec(message)?.[1] ?? 0);
	const near = text
		.slice(Math.max(0, at - 24), at + 12)
		.replace(/\s+/g, ' ')
		.trim();
	if (/^Unclosed tag/.test(message)) {
		return `A field is not closed near “${near}”: it begins with {{ and ends with }}.`;
	}
	const section =
		/^Unclosed section "(.*)"/.exec(message) ?? /^Unopened section "(.*)"/.exec(message);
	if (section) {
		return `The part {{#${section[1]}}} or {{^${section[1]}}} needs its end {{/${section[1]}}} behind it, and each end its beginning.`;
	}
	return `The fields cannot be read near “${near}”.`;
}

const noTemplate = (problems: readonly string[], text: string): Template => ({
	fields: [],
	bare: [],
	problems,
	render: () => text
});

/** More parts than anybody writes by hand. */
const mostParts = 500;

/** One that keeps no cache: what is typed is parsed at every rest, and never again. */
const writer = new Mustache.Writer();
(writer as unknown as { templateCache: undefined }).templateCache = undefined;

/** Reads a template. Never throws: what is wrong is in `problems`, and a broken one renders as it was written. */
export function readTemplate(text: string, escape: Escape = 'none'): Template {
	if (!text.includes('{{')) return noTemplate([], text);
	// Nested by the thousand they would use up the stack.
	if ((text.match(/\{\{\s*[#^]/g)?.length ?? 0) > mostParts) {
		return noTemplate(
			[`It has over ${mostParts} parts between {{#…}} and their ends. Take some out.`],
			text
		);
	}
	let tokens: Token[];
	try {
		tokens = writer.parse(text) as unknown as Token[];
	} catch (error) {
		return noTemplate([plainProblem((error as Error).message, text)], text);
	}
	const used = new Set<string>();
	const bare = new Set<string>();
	const covered = new Set<string>();
	const problems = new Set<string>();
	const look = (list: readonly Token[], inside: readonly string[]) => {
		for (const [type, name, , , inner] of list) {
			if (type === 'text') continue;
			if (type === '!') {
				problems.add(`{{!${name}}} cannot be used here. Take it out: nobody reads it.`);
				continue;
			}
			if (type === '>' || type === '=' || type === '&') {
				problems.add(`{{${type}${name}}} cannot be used here. Use {{${name}}}.`);
				continue;
			}
			if (!isField(name)) {
				problems.add(`There is no field “${name}”. Take one from the list of fields.`);
				continue;
			}
			used.add(name);
			if (type === '^') covered.add(name);
			if (type === 'name' && !inside.includes(name)) bare.add(name);
			if (inner) look(inner, type === '#' ? [...inside, name] : inside);
		}
	};
	look(tokens, []);
	if (problems.size > 0) return noTemplate([...problems], text);
	const parts = partsOf(tokens);
	const asText = escape === 'html' ? escapeHtml : (value: string) => value;
	return {
		fields: [...used],
		bare: [...bare].filter((name) => !covered.has(name)),
		problems: [],
		render: (values) => filled(parts, values, asText)
	};
}

/** A piece of a template: words as they are, a value, or what stands where there is one, or none. */
type Part =
	| string
	| { readonly is: 'value'; readonly field: string }
	| { readonly is: 'with' | 'without'; readonly field: string; readonly inner: readonly Part[] };

const kindOf = { '#': 'with', '^': 'without' } as const;

/** The pieces of what the parser has read, words that follow each other as one. */
function partsOf(tokens: readonly Token[]): Part[] {
	const parts: Part[] = [];
	for (const [type, text, , , inner] of tokens) {
		if (type === 'text') {
			const before = parts.at(-1);
			if (typeof before === 'string') parts[parts.length - 1] = before + text;
			else parts.push(text);
		} else if (type === '#' || type === '^')
			parts.push({ is: kindOf[type], field: text, inner: partsOf(inner!) });
		else parts.push({ is: 'value', field: text });
	}
	return parts;
}

/** Filled in by ourselves: a hundred thousand copies take the same pieces, and the package looks each name up in contexts that we do not have. */
function filled(parts: readonly Part[], values: Values, asText: (value: string) => string): string {
	let text = '';
	for (const part of parts) {
		if (typeof part === 'string') text += part;
		else if (part.is === 'value') text += asText(values(part.field));
		else if ((values(part.field) === '') === (part.is === 'without'))
			text += filled(part.inner, values, asText);
	}
	return text;
}

/** Whether a stretch of words is a whole template by itself: each part it begins ends in it. */
export const isWhole = (text: string): boolean =>
	!text.includes('{{') || readTemplate(text).problems.length === 0;

/** A tag, as far as it can be part of a template that is whole. */
const tag = /\{\{[^{}]*\}\}/g;

/**
 * A stretch of words as it stands in an HTML template. Tags count only where the stretch is whole by itself, and no
 * brace outside of them is left to make one with what stands beside it: else a part could begin in the words of a
 * link and end behind its tag, and take the markup between away.
 */
export function templateHtml(text: string): string {
	const inert = (words: string) => escapeHtml(words).replace(/\{/g, '&#123;');
	if (!isWhole(text)) return inert(text);
	let html = '';
	let at = 0;
	for (const found of text.matchAll(tag)) {
		html += inert(text.slice(at, found.index)) + escapeHtml(found[0]);
		at = found.index + found[0].length;
	}
	return html + inert(text.slice(at));
}

/** An address as it stands in an attribute of an HTML template: of tags only values count, braces else are encoded (RFC 3986 section 2.1). */
export function templateAddress(href: string): string {
	const inert = (part: string) =>
		escapeHtml(part.replace(/[{}]/g, (c) => (c === '{' ? '%7B' : '%7D')));
	let html = '';
	let at = 0;
	for (const found of href.matchAll(tag)) {
		const value = isField(found[0].slice(2, -2).trim());
		html += inert(href.slice(at, found.index)) + (value ? escapeHtml(found[0]) : inert(found[0]));
		at = found.index + found[0].length;
	}
	return html + inert(href.slice(at));
}
