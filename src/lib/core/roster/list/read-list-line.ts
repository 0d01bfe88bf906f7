import type { ListLine } from '../../format/contact-list/line';
import { fold } from '../../format/fold';
import { LineCells, mostName, StaysOut } from '../../format/oneroster/line-cells';
import type { Wrong } from '../../format/oneroster/fault';
import { plainRelation } from './guardians';
import type { ListColumns, ListField } from './fields';
import { readDay, readLanguage, readYes, type DateOrder } from './values';

/** How a list is read: what its columns are, what they are headed, and in which order its dates have their figures. */
export interface ListReading {
	readonly heading: readonly string[];
	readonly columns: ListColumns;
	readonly dates: DateOrder;
	/** Where a number is of that names none (ISO 3166-1). */
	readonly country: string;
}

/** A line that was read: what it says, or why it stays out; and single cells that do. */
export interface ReadListLine {
	readonly line: ListLine | null;
	readonly wrong: readonly { readonly wrong: Wrong; readonly rest: boolean }[];
}

/** "Amaro, Delfina" and "Delfina Amaro" as their two parts; one word is a family name. */
function parted(full: string): readonly [given: string, family: string] {
	const [family, given] = full.split(/,\s*/, 2);
	if (given !== undefined) return [given, family!];
	const at = full.lastIndexOf(' ');
	return at < 0 ? ['', full] : [full.slice(0, at), full.slice(at + 1)];
}

/** Reads lines of a contact list, one after the other. */
export function listLineReader({
	heading,
	columns,
	dates,
	country
}: ListReading): (cells: readonly string[]) => ReadListLine {
	const titles = new Map<ListField, string>();
	const at = new Map<string, number>();
	columns.forEach((field, i) => {
		if (field === null) return;
		const title = heading[i]!.trim() || `column ${i + 1}`;
		const own = at.has(title) ? `${title} (column ${i + 1})` : title;
		titles.set(field, own);
		at.set(own, i);
	});
	return (cells) => {
		const reading = new Reading(new LineCells(at, cells, country), titles, dates);
		try {
			if (cells.length > heading.length)
				throw new StaysOut({ code: 'cells', has: cells.length, heading: heading.length });
			const line = reading.line();
			return { line, wrong: reading.cells.faults.map((wrong) => ({ wrong, rest: true })) };
		} catch (error) {
			if (!(error instanceof StaysOut)) throw error;
			return { line: null, wrong: [{ wrong: error.wrong, rest: false }] };
		}
	};
}

const yesNoFields = ['guardian', 'custody', 'correspondence', 'emergency', 'livesWith'] as const;

class Reading {
	constructor(
		readonly cells: LineCells,
		readonly titles: ReadonlyMap<ListField, string>,
		readonly dates: DateOrder
	) {}

	#text(field: ListField): string {
		const title = this.titles.get(field);
		return title === undefined ? '' : this.cells.text(title, mostName);
	}
	#has(field: ListField): boolean {
		return this.titles.has(field);
	}
	#wrong(wrong: Wrong): undefined {
		this.cells.faults.push(wrong);
		return undefined;
	}

	line(): ListLine {
		const named = {
			number: this.#text('studentNumber'),
			name:
				this.#text('studentName') ||
				`${this.#text('studentGivenName')} ${this.#text('studentFamilyName')}`.trim(),
			grade: this.#text('studentGrade'),
			school: this.#text('studentSchool')
		};
		if (named.number === '' && named.name === '')
			throw new StaysOut({
				code: 'empty',
				column:
					this.titles.get('studentNumber') ??
					this.titles.get('studentName') ??
					this.titles.get('studentFamilyName')!
			});
		const student =
			named.number !== ''
				? `number ${named.number}`
				: `name ${fold([named.name, named.grade, named.school].join('|'))}`;
		const [givenName, familyName] = this.#has('name')
			? parted(this.#text('name'))
			: [this.#text('givenName'), this.#text('familyName')];
		if (givenName + familyName === '')
			throw new StaysOut({
				code: 'empty',
				column:
					this.titles.get('name') ?? this.titles.get('familyName') ?? this.titles.get('givenName')!
			});
		const number = this.#text('number') || null;
		const said = this.#text('relation').toLowerCase();
		const relation = said || plainRelation;
		const who = number === null ? fold(`${givenName} ${familyName}`.trim()) : `number ${number}`;
		return {
			id: `${student}\n${who}`,
			...{ student, named, number, givenName, familyName, relation },
			...this.#flags(),
			...this.#language(),
			...this.#email(),
			...this.#phone('sms'),
			...this.#phone('phone'),
			...this.#consent()
		};
	}

	/** A yes or no; undefined where the list does not say, or says something else. */
	#yes(field: ListField): boolean | undefined {
		const text = this.#text(field);
		if (text === '') return undefined;
		return (
			readYes(text) ??
			this.#wrong({
				...{ code: 'not-one-of', column: this.titles.get(field)!, value: text },
				of: ['yes', 'no']
			})
		);
	}
	#flags() {
		const flags: Partial<Record<(typeof yesNoFields)[number], boolean>> = {};
		for (const field of yesNoFields) {
			const is = this.#yes(field);
			if (is !== undefined) flags[field] = is;
		}
		return flags;
	}
	#language(): Pick<ListLine, 'language'> {
		const text = this.#text('language');
		if (text === '') return {};
		const language = readLanguage(text);
		if (language !== undefined) return { language };
		this.#wrong({ code: 'no-language', column: this.titles.get('language')!, value: text });
		return {};
	}
	#email(): Pick<ListLine, 'email'> {
		const title = this.titles.get('email');
		if (title === undefined) return {};
		const value = this.cells.email(title)[title];
		// An empty cell of a list says nothing: what is on file stays.
		return value ? { email: value } : {};
	}
	#phone<F extends 'sms' | 'phone'>(field: F): { readonly [K in F]?: string } {
		const title = this.titles.get(field);
		if (title === undefined) return {};
		const value = this.cells.phone(title)[title];
		return value ? ({ [field]: value } as { [K in F]: string }) : {};
	}
	#consent(): Pick<ListLine, 'texts' | 'textsSince'> {
		const is = this.#yes('texts');
		const text = this.#text('textsSince');
		if (is === undefined && text === '') return {};
		const day = text === '' ? '' : readDay(text, this.dates);
		if (day === undefined) {
			this.#wrong({ code: 'no-date', column: this.titles.get('textsSince')!, value: text });
			return is === false ? { texts: 'out' } : {};
		}
		// A day alone says it too: a list has no day of what was not said.
		return is === false ? { texts: 'out' } : { texts: 'in', textsSince: day };
	}
}
