import {
	stepOf,
	type Change,
	type Dispute,
	type Here,
	type Step
} from '../../../core/roster/difference';
import { shortNameOf } from '../../../core/roster/short-name';
import type { AnyThing } from '../../../core/roster/things';
import { isGuardianBy, plainRelation } from '../../../core/roster/list/guardians';
import type { Value } from '../../db/many';
import { hereOf, rowKeyOf, tableOf } from './here';
import { isNumbered, numberedKinds, type NumberedKind } from './known';
import type { AnyRow, RowTable } from './row-tables';
import { columnsOf } from './columns-of-fields';
import type { Grounds } from './grounds';
import { AddressPlanner } from './plan-addresses';
import { exchange, noWork, type TableWork, type Work } from './work';

/** What a change of the source comes to here. */
export interface Done {
	readonly change: Change;
	readonly step: Step;
	/** The number of its row, where it has one. */
	readonly rowId: number | null;
	/** The thing as it was here. */
	readonly here: Here | undefined;
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
	readonly #addresses: AddressPlanner;

	constructor(readonly grounds: Grounds) {
		this.#free = { ...grounds.free };
		this.#short = new Set(grounds.shortNames);
		this.#addresses = new AddressPlanner(grounds, this.work.address, () => this.#number('address'));
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

	#putNumbered(kind: NumberedKind, { key, after }: Change): number {
		const { known, sourceId, now, language } = this.grounds;
		const table = tableOf[kind];
		const id = this.#number(table);
		known.add(kind, key, id);
		this.#of('known_as').put.push({ source_id: sourceId, kind, key, row_id: id });
		const row: Record<string, Value> = { id, ...columnsOf(kind, after!, this.grounds.known) };
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
		if (kind === 'person') this.#addresses.put(id, after!);
		return id;
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
		const columns = columnsOf(kind, step.set, this.grounds.known);
		if (step.what === 'back' && 'gone_at' in row!)
			Object.assign(columns, { gone_at: null, since: this.grounds.now });
		this.#exchange(table, row!, columns);
		if (kind === 'person') this.#addresses.change(id, step.set, change);
		return id;
	}

	#saidOtherwise(kind: NumberedKind, id: number): boolean {
		const { known, after } = this.grounds;
		return known.keysOf(kind, id).some((key) => after[kind].has(key));
	}

	#exchange(table: RowTable, row: AnyRow, columns: AnyRow): void {
		exchange(this.#of(table), row, columns);
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
					columnsOf('contact', change.after!, this.grounds.known)
				);
			}
			if (kind === 'contact' || kind === 'enrolment')
				Object.assign(made, { since: now, gone_at: null });
			this.#of(table).put.push(made);
			return;
		}
		const columns = kind === 'contact' ? columnsOf('contact', step.set, this.grounds.known) : {};
		if (step.what === 'back') Object.assign(columns, { gone_at: null, since: now });
		this.#exchange(table, row!, columns);
	}
}

/** The disputes of what was done: fields that were mended here and that the file has changed as well. */
export const disputesOf = ({ step }: Done): readonly Dispute[] =>
	step.what === 'changed' ? step.disputes : [];

/** The kinds of rows with numbers of their own, for whoever asks which are free. */
export const numberedTables = [...numberedKinds.map((kind) => tableOf[kind]), 'address'] as const;
