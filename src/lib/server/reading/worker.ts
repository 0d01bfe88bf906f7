import { Unreadable } from '../gateway/return-mail';
import { readingTasks, type ReadingTasks } from './tasks';

/** A thread that looks at what strangers hand in: what never ends there ends with it, and holds up nobody. */
export interface Asked {
	readonly task: keyof ReadingTasks;
	readonly args: readonly unknown[];
}

/** What comes back: a value, or why there is none. An error of a class of ours loses its class on the way. */
export type Answered =
	| { readonly ok: true; readonly value: unknown }
	| { readonly ok: false; readonly message: string; readonly unreadable: boolean };

export default async function work({ task, args }: Asked): Promise<Answered> {
	try {
		const run = readingTasks[task] as (...rest: readonly unknown[]) => unknown;
		return { ok: true, value: await run(...args) };
	} catch (error) {
		return {
			ok: false,
			message: (error as Error).message,
			unreadable: error instanceof Unreadable
		};
	}
}
