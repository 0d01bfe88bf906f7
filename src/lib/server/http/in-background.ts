import { tellMachine } from '../machine-log';

const underWay = new Set<Promise<void>>();

/** Lets work go on after whoever began it has been answered; that it failed is said to the machine's log. */
export function inBackground(what: string, work: Promise<unknown>): void {
	const done = work
		.then(
			() => {},
			(error: Error) => tellMachine('web', `${what} failed`, error)
		)
		.finally(() => underWay.delete(done));
	underWay.add(done);
}

/** How much is under way so. */
export const countInBackground = (): number => underWay.size;
