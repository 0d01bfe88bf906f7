import {
	stepOf,
	type Change,
	type Dispute,
	type Here,
	type Step
} from '../../../core/roster/difference';
import { shortNameOf } from '../../../core/roster/short-name';
import { slots, type AnyThing, type Slot, type Things } from '../../../core/roster/things';
import { isGuardianBy, plainRelation } from '../../../core/roster/list/guardians';
import type { Value } from '../../db/many';
import { addressFor, hereOf, rowKeyOf, tableOf, textSlot, type RowsHere } from './here';
import { isNumbered, numberedKinds, type Known, type NumberedKind } from './known';
import type { AnyRow, KeptRow, RowTable } from './row-tables';
import { noWork, type TableWork, type Work } from './work';

/** What a change of the source comes to here. */
export interface Done {
	readonly change: Change;
	readonly step: Step;
	/** The number of its row, where it has one. */
	readonly rowId: number | null;
	/** The thing as it was here. */
	readonly here: Here | undefined;
}

/** What custody contacts of a relation have, as somebody has said. */
export type CustodySaid = Readonly<Record<string, 'yes' | 'no'>>;

export interface Grounds {
	readonly sourceId: number;
	readonly known: Known;
	readonly rows: RowsHere;
	/** What the source says from now on. */
	readonly after: Things;
	/** The first numbers that are free. */
	readonly free: Readonly<Record<'address' | (typeof tableOf)[NumberedKind], number>>;
	readonly custody: CustodySaid;
	/** The name of a contact list; null of a roster. */
	readonly list: string | null;
	/** Numbers that have said STOP: no list opts them in again. */
	readonly stopped: ReadonlySet<string>;
	/** Of whom no other is known. */
	readonly language: string;
	/** ms. */
	readonly now: number;
	/** Short names of schools that are taken. */
	readonly shortNames: ReadonlySet<string>;
}

/** The work that changes of a source come to, and what was done for each. Numbers of new rows are added to what is known. */
export function planWork(
	changes: readonly Change[],
	grounds: Grounds
): { readonly work: Work; readonly done: readonly Done[] } {
	const planner = new Planner(grounds);
	for (const change of changes) planner.plan(change);
	return { work: planner.work, done: planner.done };
}

/** Columns of each kind of one row, by the field that fills them; what names another thing comes as its number. */
const columnsOfFields = {
	school: { name: 'name' },
	term: { name: 'name', startsOn: 'starts_on', endsOn: 'ends_on' },
	course: { school: 'school_id', code: 'code', title: 'title' },
	section: { course: 'course_id', term: 'term_id', name: 'name', period: 'period' },
	person: {
		kind: 'kind',
		givenName: 'given_name',
		familyName: 'family_name',
		identifier: 'identifier',
		school: 'school_id',
		gradeLevel: 'grade_level',
		hasInbox: 'has_inbox',
		language: 'language'
	},
	household: { name: 'name' },
	contact: {
		relation: 'relation',
		guardian: 'guardian',
		custody: 'custody',
		correspondence: 'correspondence',
		emergency: 'emergency'
	}
} as const satisfies Partial<Record<Change['kind'], Readonly<Record<string, string>>>>;

const named: Readonly<Record<string, NumberedKind>> = {
	school: 'school',
	course: 'course',
	term: 'term'
};

/** The standard's own words for a tie. */
const plainTies: ReadonlySet<unknown> = new Set(['parent', 'guardian', 'relative']);

/** What of a tie that comes back is taken from the source: who is a guardian, and its word where nobody had a better one. */
function saidAgain({ kind, after }: Change, here: Here): AnyThing {
	if (kind !== 'contact') return {};
	const { guardian, relation } = after!;
	return {
		guardian: guardian!,
		...(plainTies.has(here.thing.relation) ? { relation: relation! } : {})
	};
}

const noConsent = { consent_at: null, consent_how: null, consent_said: null } as const;

/** A step of a tie without a relation that the list has only by default: whatever stands here says more. Null where nothing is left. */
function withoutPlain(step: Step): Step | null {
	if (step.what !== 'changed' || step.set.relation !== plainRelation) return step;
	const set = Object.fromEntries(
		Object.entries(step.set).filter(([field]) => field !== 'relation')
	);
	return Object.keys(set).length > 0 ? { ...step, set } : null;
}

class Planner {
	readonly work = noWork();
	readonly done: Done[] = [];
	readonly #free: Record<string, number>;
	readonly #short: Set<string>;

	constructor(readonly grounds: Grounds) {
		this.#free = { ...grounds.free };
		this.#short = new Set(grounds.shortNames);
	}

	plan(change: Change): void {
		const { known, rows, list } = this.grounds;
		// A list says who is whose contact, and of nobody that they have gone.
		if (list !== null && change.after === null && isNumbered(change.kind)) return;
		const here = hereOf(change, rows, known);
		let step = stepOf(change, here);
		// The standard's word for a tie says less than whoever has written one here, and it has no names for homes.
		if (
			((change.kind === 'contact' && list === null) || change.kind === 'household') &&
			change.before === null &&
			here
		)
			step = here.gone ? { what: 'back', set: saidAgain(change, here) } : null;
		if (step !== null && list !== null && change.kind === 'contact') step = withoutPlain(step);
		if (step === null) return;
		// A home that this source did not make is not its own to fill.
		if (!isNumbered(change.kind) && rowKeyOf(change, known) === undefined) return;
		const rowId = this.#carryOut(change, step);
		this.done.push({ change, step, rowId, here });
	}

	#of(table: RowTable): TableWork {
		return this.work[table];
	}
	#number(table: string): number {
		const id = this.#free[table]!;
		this.#free[table] = id + 1;
		return id;
	}

	/** The row of a change as it is. */
	#row(change: Change): { readonly key: AnyRow; readonly row: AnyRow | undefined } {
		const key = rowKeyOf(change, this.grounds.known)!;
		return { key, row: this.grounds.rows.row(tableOf[change.kind], key) };
	}

	#carryOut(change: Change, step: Step): number | null {
		const { kind } = change;
		if (isNumbered(kind))
			return step.what === 'new'
				? this.#putNumbered(kind, change)
				: this.#changeNumbered(kind, change, step);
		this.#tie(change, step);
		return null;
	}

	/** Fields as columns. */
	#columns(kind: keyof typeof columnsOfFields, fields: AnyThing): Record<string, Value> {
		const columns: Record<string, Value> = {};
		for (const [field, column] of Object.entries(columnsOfFields[kind])) {
			const value = fields[field];
			if (value === undefined) continue;
			const of = named[field];
			columns[column] =
				of !== undefined && typeof value === 'string'
					? (this.grounds.known.idOf(of, value) ?? null)
					: typeof value === 'boolean'
						? Number(value)
						: value;
		}
		return columns;
	}

	#putNumbered(kind: NumberedKind, { key, after }: Change): number {
		const { known, sourceId, now, language } = this.grounds;
		const table = tableOf[kind];
		const id = this.#number(table);
		known.add(kind, key, id);
		this.#of('known_as').put.push({ source_id: sourceId, kind, key, row_id: id });
		const row: Record<string, Value> = { id, ...this.#columns(kind, after!) };
		if (kind === 'school') {
			row.short_name = shortNameOf(row.name as string, this.#short);
			this.#short.add(row.short_name);
		}
		if (kind === 'person') {
			row.language ??= language;
			row.has_inbox ??= 1;
		}
		if (kind === 'person' || kind === 'section' || kind === 'household')
			Object.assign(row, { since: now, gone_at: null });
		this.#of(table).put.push(row);
		if (kind === 'person')
			for (const slot of slots) {
				const value = after![slot];
				if (typeof value === 'string') this.#putAddress(id, slot, value, after!);
			}
		return id;
	}

	#putAddress(personId: number, slot: Slot, value: string, said: AnyThing): void {
		this.#of('address').put.push({
			id: this.#number('address'),
			person_id: personId,
			way: slot === 'email' ? 'email' : 'text',
			value,
			failing: null,
			failing_since: null,
			slot,
			...this.#consent(slot, value, said)
		});
	}

	/** What a source says of texts to a number; nothing where it does not speak of that number. */
	#consent(slot: Slot, value: string, said: AnyThing): AnyRow {
		const { list, stopped, now } = this.grounds;
		const none = { consent: 'unknown', ...noConsent };
		if (slot !== textSlot(said) || typeof said.texts !== 'string') return none;
		if (said.texts === 'in' && stopped.has(value))
			return { ...none, consent: 'out', consent_at: now, consent_how: 'text' };
		const since = typeof said.textsSince === 'string' ? Date.parse(said.textsSince) : now;
		return {
			consent: said.texts,
			consent_at: said.texts === 'in' ? since : now,
			consent_how: 'list',
			consent_said: list
		};
	}

	#changeNumbered(kind: NumberedKind, change: Change, step: Step): number {
		const { row } = this.#row(change);
		const id = row!.id as number;
		const table = tableOf[kind];
		// Under another key the source still has them.
		if (step.what === 'gone' && this.#saidOtherwise(kind, id)) return id;
		// Schools, terms and courses that nothing is in any more are in no list, and stay for what was.
		if (step.what === 'gone') {
			if ('gone_at' in row!) this.#exchange(table, row, { gone_at: this.grounds.now });
			return id;
		}
		if (step.what === 'new') return id;
		const columns = this.#columns(kind, step.set);
		if (step.what === 'back' && 'gone_at' in row!)
			Object.assign(columns, { gone_at: null, since: this.grounds.now });
		this.#exchange(table, row!, columns);
		if (kind === 'person') this.#addresses(id, step.set, change);
		return id;
	}

	#saidOtherwise(kind: NumberedKind, id: number): boolean {
		const { known, after } = this.grounds;
		return known.keysOf(kind, id).some((key) => after[kind].has(key));
	}

	#exchange(table: RowTable, row: AnyRow, columns: AnyRow): void {
		const after = { ...row, ...columns };
		if (Object.keys(columns).some((c) => row[c] !== after[c]))
			this.#of(table).change.push({ before: row, after });
	}

	/** Addresses as the file now has them: another mailbox is not the one that failed, another number has not opted in. */
	#addresses(personId: number, set: AnyThing, change: Change): void {
		const own = this.grounds.rows.addressesOf(personId);
		for (const slot of slots) {
			const value = set[slot];
			if (value === undefined) {
				this.#adopt(own, slot, change, set);
				continue;
			}
			const row = addressFor(own, slot, (change.before?.[slot] ?? null) as string | null);
			if (value === null) {
				if (row) this.#of('address').take.push(row);
			} else if (!row) this.#putAddress(personId, slot, value as string, change.after!);
			else
				this.#exchange('address', row, {
					value: value as string,
					failing: null,
					failing_since: null,
					...(slot === 'email' ? {} : this.#consent(slot, value as string, change.after!)),
					slot
				});
		}
	}
	/** An address that is here already, and that the file has as well, is the file's from now on. */
	#adopt(own: readonly KeptRow<'address'>[], slot: Slot, { after }: Change, set: AnyThing): void {
		const value = (after?.[slot] ?? null) as string | null;
		const row = value === null ? undefined : addressFor(own, slot, value);
		if (!row) return;
		const consent =
			set.texts !== undefined && slot === textSlot(after!)
				? this.#consent(slot, value!, after!)
				: {};
		if (row.slot === null || Object.keys(consent).length > 0)
			this.#exchange('address', row, { slot: row.slot ?? slot, ...consent });
	}

	/** A tie between two things: put, changed, ended. */
	#tie(change: Change, step: Step): void {
		const { kind } = change;
		const { now, custody } = this.grounds;
		const table = tableOf[kind];
		const { key, row } = this.#row(change);
		if (step.what === 'gone') {
			if (row && 'gone_at' in row) this.#exchange(table, row, { gone_at: now });
			else if (row) this.#of(table).take.push(row);
			return;
		}
		if (step.what === 'new') {
			const made: Record<string, Value> = { ...key };
			if (kind === 'contact') {
				const said = custody[change.after!.relation as string];
				Object.assign(
					made,
					{
						custody: said === undefined ? null : Number(said === 'yes'),
						guardian: Number(isGuardianBy(change.after!.relation as string)),
						correspondence: 1,
						emergency: 0
					},
					this.#columns('contact', change.after!)
				);
			}
			if (kind === 'contact' || kind === 'enrolment')
				Object.assign(made, { since: now, gone_at: null });
			this.#of(table).put.push(made);
			return;
		}
		const columns = kind === 'contact' ? this.#columns('contact', step.set) : {};
		if (step.what === 'back') Object.assign(columns, { gone_at: null, since: now });
		this.#exchange(table, row!, columns);
	}
}

/** The disputes of what was done: fields that were mended here and that the file has changed as well. */
export const disputesOf = ({ step }: Done): readonly Dispute[] =>
	step.what === 'changed' ? step.disputes : [];

/** The kinds of rows with numbers of their own, for whoever asks which are free. */
export const numberedTables = [...numberedKinds.map((kind) => tableOf[kind]), 'address'] as const;
