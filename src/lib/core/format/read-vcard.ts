import ICAL from 'ical.js';
import type { Card } from './vcard';

/** A person as a card says them: the preferred address first, numbers and language as they stand; empty where nothing is said. */
export type CardIn = Required<Omit<Card, 'note'>>;

/** One card of a file: what it says, or why it says nothing that can be used. */
export interface ReadCard {
	/** The line on which it begins, counted from 1. */
	readonly line: number;
	readonly card: CardIn | null;
	/** The name, as far as it can be read. */
	readonly name: string;
	readonly why: string;
}

/** A line without its folds (RFC 6350 section 3.2, RFC 2425 section 5.8.1), and where it begins. */
interface ContentLine {
	readonly at: number;
	readonly text: string;
}

/** Longer is no line that anybody wrote, but a picture. */
const mostLine = 100_000;
/** And no person has more addresses, students and groups, a line each. */
const mostProperties = 500;

function* unfolded(text: string): Generator<ContentLine> {
	let at = 0;
	let parts: string[] = [];
	let number = 0;
	for (const line of text.replace(/^\ufeff/, '').split(/\r\n|\n|\r/)) {
		number += 1;
		if (/^[ \t]/.test(line) && parts.length > 0) {
			parts.push(line.slice(1));
			continue;
		}
		if (parts.length > 0) yield { at, text: parts.join('') };
		[at, parts] = [number, [line]];
	}
	if (parts.length > 0) yield { at, text: parts.join('') };
}

/** Properties that are read; all others are passed over, whatever stands in them. */
const used = new Set('version fn n email tel lang categories related uid kind'.split(' '));

/** "item1.EMAIL;TYPE=home:…" → "email". */
const propertyOf = (line: string): string =>
	/^(?:[A-Za-z0-9-]+\.)?([A-Za-z0-9-]+)[;:]/.exec(line)?.[1]!.toLowerCase() ?? '';

/** A property as ical.js reads it: name, parameters, type, values. */
type Property = readonly [
	name: string,
	parameters: Readonly<Record<string, string | readonly string[]>>,
	type: string,
	...values: unknown[]
];

const textOf = (value: unknown): string =>
	(Array.isArray(value) ? value.map(textOf).filter(Boolean).join(' ') : String(value ?? ''))
		.replace(/\s+/g, ' ')
		.trim();

const typesOf = ([, { type = [] }]: Property): string[] =>
	[type].flat().flatMap((t) => String(t).toLowerCase().split(','));

/** How much a value is preferred: PREF from 1 on (RFC 6350 section 5.3), a type "pref" before that (RFC 2426 section 3.3.1). */
function preference(property: Property): number {
	const pref = Number(property[1].pref);
	if (Number.isInteger(pref) && pref >= 1 && pref <= 100) return pref;
	return typesOf(property).includes('pref') ? 1 : 101;
}
const preferredFirst = (list: readonly Property[]): Property[] =>
	[...list].sort((a, b) => preference(a) - preference(b));

/** Types of a number that nobody answers (RFC 6350 section 6.4.1). */
const silent = new Set(['fax', 'pager', 'textphone', 'modem', 'bbs', 'pcs']);

function phoneOf(property: Property): CardIn['phones'][number] | null {
	const types = typesOf(property);
	const value = textOf(property[3]).replace(/^tel:/i, '');
	// An extension (RFC 3966 section 3) is behind a desk's number, and no text gets there.
	const [number = '', ...parameters] = value.split(';');
	if (number === '' || types.some((t) => silent.has(t))) return null;
	const texts = (types.includes('text') || types.includes('cell')) && parameters.length === 0;
	return { number, type: texts ? 'text' : 'voice' };
}

/** What KIND says beside a person (RFC 6350 section 6.1.4). */
const noPerson: Readonly<Record<string, string>> = {
	group: 'a group',
	org: 'an organisation',
	location: 'a place'
};

class Unusable extends Error {}

/** Makes a card of its lines. Throws Unusable with the reason where it is none that can be used. */
function cardOf(lines: readonly string[], name: (name: string) => void): CardIn {
	const version = lines
		.find((line) => propertyOf(line) === 'version')
		?.split(':')[1]
		?.trim();
	if (version !== '3.0' && version !== '4.0')
		throw new Unusable(
			version === undefined
				? 'it does not say its version (VERSION)'
				: `its version is ${version.slice(0, 20)}; 3.0 and 4.0 are read. Save it anew in one of them`
		);
	const design = version === '3.0' ? ICAL.design.vcard3 : ICAL.design.vcard;
	const all = new Map<string, Property[]>();
	const readable = lines.filter((line) => used.has(propertyOf(line)));
	if (readable.length > mostProperties)
		throw new Unusable(`it has ${readable.length} lines; no person has over ${mostProperties}`);
	for (const line of readable) {
		const property = propertyOf(line);
		if (line.length > mostLine) throw new Unusable(`its ${property.toUpperCase()} has no end`);
		try {
			const read = ICAL.parse.property(line, design) as unknown as Property;
			const before = all.get(property);
			if (before) before.push(read);
			else all.set(property, [read]);
		} catch {
			throw new Unusable(`its line “${line.slice(0, 60)}” cannot be read`);
		}
	}
	const of = (property: string): Property[] => all.get(property) ?? [];
	const first = (property: string): string => textOf(preferredFirst(of(property))[0]?.[3]);
	const full = first('fn');
	const parts = of('n')[0]?.[3];
	const [family = '', given = ''] = Array.isArray(parts) ? parts.map(textOf) : [textOf(parts)];
	const at = full.lastIndexOf(' ');
	const [givenName, familyName] =
		given + family === '' ? [full.slice(0, Math.max(at, 0)), full.slice(at + 1)] : [given, family];
	name(full || `${givenName} ${familyName}`.trim());
	const kind = noPerson[first('kind').toLowerCase()];
	if (kind !== undefined) throw new Unusable(`it is the card of ${kind}, not of a person`);
	if (givenName + familyName === '') throw new Unusable('it has no name (FN, N)');
	return {
		...{ uid: first('uid'), givenName, familyName },
		emails: preferredFirst(of('email'))
			.map((p) => textOf(p[3]))
			.filter(Boolean),
		phones: preferredFirst(of('tel')).flatMap((p) => phoneOf(p) ?? []),
		language: first('lang'),
		categories: [
			...new Set(
				of('categories')
					.flatMap((p) => p.slice(3).map(textOf))
					.filter(Boolean)
			)
		],
		children: of('related')
			.filter((p) => typesOf(p).includes('child') && p[2] === 'text')
			.map((p) => textOf(p[3]))
			.filter(Boolean)
	};
}

/** A whole file's cards of vCard 3.0 (RFC 2426) and 4.0 (RFC 6350), one after the other; one that cannot be used is said alone. */
export function readVcards(text: string): ReadCard[] {
	const cards: ReadCard[] = [];
	let open: { readonly line: number; readonly lines: string[] } | null = null;
	const wrong = (line: number, name: string, why: string) =>
		cards.push({ line, card: null, name, why: `${why}.` });
	for (const { at, text: line } of unfolded(text)) {
		const word = line.trim().toUpperCase();
		if (word === 'BEGIN:VCARD') {
			if (open) wrong(open.line, '', 'it does not end before the next begins (END:VCARD)');
			open = { line: at, lines: [] };
		} else if (word === 'END:VCARD') {
			if (!open) continue;
			let name = '';
			try {
				const card = cardOf(open.lines, (said) => (name = said));
				cards.push({ line: open.line, card, name, why: '' });
			} catch (error) {
				if (!(error instanceof Unusable)) throw error;
				wrong(open.line, name, error.message);
			}
			open = null;
		} else open?.lines.push(line);
	}
	if (open) wrong(open.line, '', 'it does not end (END:VCARD): the file is cut off there');
	return cards;
}
