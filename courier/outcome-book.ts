import type { Settled } from './outcomes';

/** Outcomes on their way into the database: never more of them at once than a kill may repeat. */
interface OutcomeBook {
	/** Waits until there is room for one more; throws what kept an outcome from being written. */
	room(): Promise<void>;
	write(outcome: Settled): void;
	/** Waits until all are written; throws as {@link OutcomeBook.room} does. */
	empty(): Promise<void>;
}

/** Writes outcomes by `settle`, of which at most so many are `unwritten` at a time. */
export function outcomeBook(
	unwritten: number,
	settle: (outcome: Settled) => Promise<void>
): OutcomeBook {
	let writing = 0;
	const waiting: (() => void)[] = [];
	let unwritable: { readonly error: unknown } | null = null;
	const written = () => {
		writing -= 1;
		waiting.splice(0).forEach((go) => go());
	};
	const fewer = async (than: number) => {
		while (writing >= than) await new Promise<void>((go) => waiting.push(go));
		if (unwritable) throw unwritable.error;
	};
	return {
		room: () => fewer(unwritten),
		empty: () => fewer(1),
		write(outcome) {
			writing += 1;
			settle(outcome).then(written, (error: unknown) => {
				unwritable ??= { error };
				written();
			});
		}
	};
}
