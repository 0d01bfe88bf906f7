import { fork, type ChildProcess } from 'node:child_process';
import pLimit, { type LimitFunction } from 'p-limit';
import { tellMachine } from '../machine-log';
import { services } from '../services';
import type { Answered, Asked, Heard, TaskArgs, TaskName, TaskResult } from './tasks';

/** What was asked took longer than it may; the planner was ended by it. */
export class TookTooLong extends Error {
	constructor(ms: number) {
		super(
			`This took longer than ${Math.round(ms / 1000)} seconds and was ended. Ask for less at once; if it comes again, tell whoever runs the server.`
		);
	}
}

/** What was asked is for the process that does bulk work. */
export class ForBulk extends Error {}

/** So many questions of one user are under way at once. What they ask beyond waits behind their own, and behind nobody else’s: who presses a button a hundred times holds up themselves. */
const mostOfOne = 4;

/** Whose question it is, by what goes with it; null for what nobody asked. */
const askerOf = ([first]: readonly unknown[]): number | null =>
	typeof first === 'object' && first !== null && 'personId' in first
		? Number(first.personId)
		: null;

interface Waiting {
	readonly task: TaskName;
	readonly resolve: (value: never) => void;
	readonly reject: (error: Error) => void;
	readonly heard: Heard;
	readonly deadline: ReturnType<typeof setTimeout>;
}

/** A planner in a process of its own; it starts with the first question, and again with the next one after it has ended. */
export interface PlannerProcess {
	/**
	 * Asks it, and waits so long (ms) from when its turn comes. Rejects where the task fails, the process ends, it takes longer than
	 * it may, or it is bulk work and this is not the process for it; nothing is half written then.
	 */
	ask<K extends TaskName>(
		ms: number,
		task: K,
		args: TaskArgs<K>,
		heard?: Heard
	): Promise<TaskResult<K>>;
}

/** What is heard of a planner. */
interface Ears {
	answered(answer: Answered): void;
	gone(which: ChildProcess, why: string): void;
}

/** What a planner is for: whoever waits at a screen, bulk work, rosters that come in, what is packed up to be taken along. */
type Kind = 'at once' | 'bulk' | 'roster' | 'leaving';

/**
 * Plans are short-lived heaps of small values: a larger young space spares the collector most copying. A
 * roster is long-lived and read once: the collector is told early to keep it small.
 */
const memoryOf: Readonly<Record<Kind, readonly string[]>> = {
	'at once': ['--max-semi-space-size=64'],
	bulk: ['--max-semi-space-size=64'],
	roster: ['--max-semi-space-size=32', '--max-old-space-size=1000'],
	leaving: ['--max-old-space-size=1000']
};

/** Starts a planner; one that waits for questions keeps no process alive. */
function forked(file: string, kind: Kind, { answered, gone }: Ears): ChildProcess {
	const made = fork(file, [kind], {
		serialization: 'advanced',
		execArgv: [...memoryOf[kind]],
		stdio: ['ignore', 'inherit', 'inherit', 'ipc']
	});
	made.on('message', answered);
	made.on('error', (error) => gone(made, error.message));
	made.on('exit', (code, signal) => gone(made, `it ended with ${signal ?? code}`));
	made.unref();
	made.channel?.unref();
	return made;
}

/**
 * A planner is a process, and not a thread of piscina's: a thread that is ended while the database
 * engine answers it takes the whole process along, and a question that never ends can be ended in no
 * other way. `idleMs` is how long one that nobody asks keeps its memory; forever where none is given.
 */
export function plannerProcess(
	kind: Kind,
	{ idleMs }: { readonly idleMs?: number } = {}
): PlannerProcess {
	let worker: ChildProcess | undefined;
	let lastId = 0;
	let idle: ReturnType<typeof setTimeout> | undefined;
	const waiting = new Map<number, Waiting>();

	/** Ends everyone's waiting when the process is gone. */
	function gone(which: ChildProcess, why: string): void {
		if (worker !== which) return;
		worker = undefined;
		const left = [...waiting.values()];
		waiting.clear();
		for (const { deadline, reject } of left) {
			clearTimeout(deadline);
			reject(new Error(`The planner stopped: ${why}`));
		}
	}

	/** Ends it with a question that does not end by itself; who asked is told so, and who waited for it that they may ask again. */
	function endWith(id: number, ms: number): void {
		const slow = waiting.get(id);
		const which = worker;
		if (!slow || !which) return;
		waiting.delete(id);
		slow.reject(new TookTooLong(ms));
		tellMachine('planner', `${slow.task}: ended after ${ms} ms`);
		gone(which, 'another question took too long. Try once more.');
		which.kill('SIGKILL');
	}

	function restSoon(): void {
		clearTimeout(idle);
		if (idleMs === undefined || waiting.size > 0) return;
		idle = setTimeout(() => {
			const which = worker;
			// A question that comes from here on starts another.
			worker = undefined;
			which?.disconnect();
		}, idleMs);
		idle.unref();
	}

	function answered(answer: Answered): void {
		const asker = waiting.get(answer.id);
		if (!asker) return;
		if (answer.is === 'under-way') {
			asker.heard(answer.done, answer.what);
			return;
		}
		waiting.delete(answer.id);
		clearTimeout(asker.deadline);
		if (answer.is === 'done') asker.resolve(answer.value as never);
		else if (answer.is === 'for-bulk') asker.reject(new ForBulk());
		else asker.reject(new Error(answer.message));
		restSoon();
	}

	async function started(): Promise<ChildProcess> {
		if (worker) return worker;
		// The database is brought up to date here first: two connections need not race for it.
		const { settings } = await services();
		return (worker ??= forked(settings.plannerFile, kind, { answered, gone }));
	}

	async function send<K extends TaskName>(
		ms: number,
		task: K,
		args: TaskArgs<K>,
		heard: Heard
	): Promise<TaskResult<K>> {
		clearTimeout(idle);
		const planner = await started();
		clearTimeout(idle);
		const id = (lastId += 1);
		return new Promise((resolve, reject) => {
			const deadline = setTimeout(() => endWith(id, ms), ms);
			deadline.unref();
			waiting.set(id, { task, resolve, reject, heard, deadline });
			planner.send({ id, task, args } satisfies Asked, (error) => {
				if (error) gone(planner, error.message);
			});
		});
	}

	/** As many as there are users at most. */
	const lines = new Map<number, LimitFunction>();
	return {
		ask<K extends TaskName>(
			ms: number,
			task: K,
			args: TaskArgs<K>,
			heard: Heard = () => {}
		): Promise<TaskResult<K>> {
			const asker = askerOf(args);
			if (asker === null) return send(ms, task, args, heard);
			const line = lines.get(asker) ?? pLimit(mostOfOne);
			lines.set(asker, line);
			return line(() => send(ms, task, args, heard));
		}
	};
}
