import type { Change } from '../../../core/roster/difference';
import { slots, type AnyThing, type Slot } from '../../../core/roster/things';
import type { Grounds } from './grounds';
import { addressFor, textSlot } from './here';
import type { AnyRow, KeptRow } from './row-tables';
import { exchange, type TableWork } from './work';

const noConsent = { consent_at: null, consent_how: null, consent_said: null } as const;

/** Makes rows of the addresses that a source says of people. */
export class AddressPlanner {
	constructor(
		readonly grounds: Pick<Grounds, 'rows' | 'list' | 'stopped' | 'now'>,
		readonly work: TableWork,
		/** Gives the next free number. */
		readonly number: () => number
	) {}

	/** The addresses of somebody new. */
	put(personId: number, said: AnyThing): void {
		for (const slot of slots) {
			const value = said[slot];
			if (typeof value === 'string') this.#putAddress(personId, slot, value, said);
		}
	}

	#putAddress(personId: number, slot: Slot, value: string, said: AnyThing): void {
		this.work.put.push({
			id: this.number(),
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

	/** Addresses as the file now has them: another mailbox is not the one that failed, another number has not opted in. */
	change(personId: number, set: AnyThing, change: Change): void {
		const own = this.grounds.rows.addressesOf(personId);
		for (const slot of slots) {
			const value = set[slot];
			if (value === undefined) {
				this.#adopt(own, slot, change, set);
				continue;
			}
			const row = addressFor(own, slot, (change.before?.[slot] ?? null) as string | null);
			if (value === null) {
				if (row) this.work.take.push(row);
			} else if (!row) this.#putAddress(personId, slot, value as string, change.after!);
			else
				exchange(this.work, row, {
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
			exchange(this.work, row, { slot: row.slot ?? slot, ...consent });
	}
}
