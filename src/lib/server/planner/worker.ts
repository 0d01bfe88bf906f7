import { parentPort } from 'node:worker_threads';
import { services, type Services } from '../services';
import { tasks, type Answered, type Asked } from './tasks';

/**
 * The thread that plans. It has the roster in memory and a database connection of its own, so that
 * working out a whole district holds up nobody's request.
 */
const port = parentPort!;

async function answer({ id, task, args }: Asked): Promise<Answered> {
	try {
		const run = tasks[task] as (s: Services, ...rest: readonly unknown[]) => Promise<unknown>;
		return { id, ok: true, value: await run(await services(), ...args) };
	} catch (error) {
		console.error(`planner, ${task}:`, error);
		return { id, ok: false, message: (error as Error).message };
	}
}

port.on('message', (asked: Asked) => {
	void answer(asked).then((answered) => port.postMessage(answered));
});
