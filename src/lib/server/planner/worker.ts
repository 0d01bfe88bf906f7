import '../plain-issues';
import { services, type Services } from '../services';
import { tasks, type Answered, type Asked } from './tasks';

/**
 * The planner: a process that has the roster in memory and a database connection of its own, so that
 * working out a whole district holds up nobody's request. It lives as long as whoever asks it.
 */

async function answer({ id, task, args }: Asked): Promise<Answered> {
	try {
		const run = tasks[task] as (s: Services, ...rest: readonly unknown[]) => Promise<unknown>;
		return { id, ok: true, value: await run(await services(), ...args) };
	} catch (error) {
		console.error(`planner, ${task}:`, error);
		return { id, ok: false, message: (error as Error).message };
	}
}

process.on('message', (asked: Asked) => {
	void answer(asked).then((answered) => {
		if (process.connected) process.send!(answered);
	});
});
process.on('disconnect', () => process.exit(0));
// Whoever asks is asked to end, and ends this; a key in a terminal reaches both.
process.on('SIGINT', () => {});
process.on('SIGTERM', () => {});
