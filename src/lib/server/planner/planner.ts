import { fork, type ChildProcess } from 'node:child_process';
import { services } from '../services';
import type { Answered, Asked, TaskArgs, TaskName, TaskResult } from './tasks';

/** What was asked took longer than it may; the planner was ended by it. */
export class TookTooLong extends Error {}

interface Waiting {
	readonly task: TaskName;
	readonly resolve: (value: never) => void;
	readonly reject: (error: Error) => void;
	readonly deadline: ReturnType<typeof setTimeout>;
}

/**
 * The planner is a process, and not a thread: one that is ended while the database engine answers it takes the whole
 * process along, and a question that never ends can be ended in no other way.
 *
 * How long a question may take, ms. Working out and writing down a district takes some fifteen seconds on two cores;
 * what takes many times that will not end by itself. Several are under way at once, and each waits for the steps of the others.
 */
const usualMs = 90_000;
const heavyMs = 300_000;
const heavy: ReadonlySet<TaskName> = new Set<TaskName>([
	'warm',
	'schedule',
	'replan',
	'replanAhead',
	'followZone',
	'importCalendar',
	'move',
	'resume',
	'saveEvent',
	'tellStaff'
]);

let worker: ChildProcess | undefined;
let lastId = 0;
const waiting = new Map<number, Waiting>();

/** Ends everyone's waiting when the planner is gone; the next question starts a new one. */
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

/** Ends the planner with a question that does not end by itself; who asked is told so, and who waited for it that they may ask again. */
function endWith(id: number, ms: number): void {
	const slow = waiting.get(id);
	const which = worker;
	if (!slow || !which) return;
	waiting.delete(id);
	slow.reject(
		new TookTooLong(
			`This took longer than ${Math.round(ms / 1000)} seconds and was ended. Ask for less at once; if it comes again, tell whoever runs the server.`
		)
	);
	console.error(`planner, ${slow.task}: ended after ${ms} ms`);
	gone(which, 'another question took too long. Try once more.');
	which.kill('SIGKILL');
}

async function started(): Promise<ChildProcess> {
	if (worker) return worker;
	// The database is brought up to date here first: two connections need not race for it.
	const { settings } = await services();
	if (worker) return worker;
	// Plans are short-lived heaps of small values: a larger young space spares the collector most copying.
	const made = fork(settings.plannerFile, {
		serialization: 'advanced',
		execArgv: ['--max-semi-space-size=64'],
		stdio: ['ignore', 'inherit', 'inherit', 'ipc']
	});
	made.on('message', (answered: Answered) => {
		const asker = waiting.get(answered.id);
		if (!asker) return;
		waiting.delete(answered.id);
		clearTimeout(asker.deadline);
		if (answered.ok) asker.resolve(answered.value as never);
		else asker.reject(new Error(answered.message));
	});
	made.on('error', (error) => gone(made, error.message));
	made.on('exit', (code, signal) => gone(made, `it ended with ${signal ?? code}`));
	// A planner that waits for questions keeps no process alive.
	made.unref();
	made.channel?.unref();
	worker = made;
	return made;
}

/** Asks the planner. Rejects where the task fails, the planner ends, or it takes longer than it may; nothing is half written then. */
export function ask<K extends TaskName>(task: K, ...args: TaskArgs<K>): Promise<TaskResult<K>> {
	return askWithin(heavy.has(task) ? heavyMs : usualMs, task, ...args);
}

/** {@link ask} with another deadline, ms. */
export async function askWithin<K extends TaskName>(
	ms: number,
	task: K,
	...args: TaskArgs<K>
): Promise<TaskResult<K>> {
	const planner = await started();
	const id = (lastId += 1);
	return new Promise((resolve, reject) => {
		const deadline = setTimeout(() => endWith(id, ms), ms);
		deadline.unref();
		waiting.set(id, { task, resolve, reject, deadline });
		planner.send({ id, task, args } satisfies Asked, (error) => {
			if (error) gone(planner, error.message);
		});
	});
}
