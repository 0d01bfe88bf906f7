import type { Things } from '../../../core/roster/things';
import type { RowsHere, tableOf } from './here';
import type { Known, NumberedKind } from './known';

/** What custody contacts of a relation have, as somebody has said. */
export type CustodySaid = Readonly<Record<string, 'yes' | 'no'>>;

/** What the work of a file is planned from. */
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
