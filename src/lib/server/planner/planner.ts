import { Worker } from 'node:worker_threads';
import { services } from '../services';
import type { Answered, Asked, TaskArgs, TaskName, TaskResult } from './tasks';

interface Waiting {
	readonly resolve: (value: never) => void;
	readonly reject: (error: Error) => void;
}

let worker: Worker | undefined;
let lastId = 0;
const waiting = new Map<number, Waiting>();

/** Ends everyone's waiting when the thread is gone; the next question starts a new one. */
function gone(which: Worker, why: string): void {
	if (worker !== which) return;
	worker = undefined;
	const left = [...waiting.values()];
	waiting.clear();
	left.forEach((w) => w.reject(new Error(`The planner stopped: ${why}`)));
}

async function started(): Promise<Worker> {
	if (worker) return worker;
	// The database is brought up to date here first: two connections need not race for it.
	const { settings } = await services();
	if (worker) return worker;
	// Plans are short-lived heaps of small values: a larger young space spares the collector most copying.
	const made = new Worker(settings.plannerFile, {
		resourceLimits: { maxYoungGenerationSizeMb: 128 }
	});
	made.on('message', (answered: Answered) => {
		const asker = waiting.get(answered.id);
		waiting.delete(answered.id);
		if (answered.ok) asker?.resolve(answered.value as never);
		else asker?.reject(new Error(answered.message));
	});
	made.on('error', (error) => gone(made, error.message));
	made.on('exit', (code) => gone(made, `its thread ended with ${code}`));
	// A thread that waits for questions keeps no process alive.
	made.unref();
	worker = made;
	return made;
}

/** Asks the planning thread. Rejects where the task fails or the thread ends; nothing is half written then. */
export async function ask<K extends TaskName>(
	task: K,
	...args: TaskArgs<K>
): Promise<TaskResult<K>> {
	const thread = await started();
	const id = (lastId += 1);
	return new Promise((resolve, reject) => {
		waiting.set(id, { resolve, reject });
		thread.postMessage({ id, task, args } satisfies Asked);
	});
}
