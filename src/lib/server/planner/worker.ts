import { watchFile } from 'node:fs';
import '../plain-issues';
import { services } from '../services';
import type { User } from '../access/user';
import { tellMachine } from '../machine-log';
import { isLarge, isLargeDistrict } from '../desk/plan/how-large';
import type { Sending } from '../desk/sheet/sheet';
import {
	ofEverybody,
	ofSheet,
	tasks,
	type Answered,
	type Asked,
	type Heard,
	type House
} from './tasks';

/**
 * A planner: a process that has the roster in memory and a database connection of its own, so that
 * working something out holds up nobody's request. It lives as long as whoever asks it. Which of the
 * three it is stands in its argument.
 */
const bulk = process.argv[2] !== 'at once';

/** What a question about a sheet speaks of. */
type Spoken = Pick<Sending, 'audience'>;

/** Tells whoever asked how far it is, by hundredths. */
function teller(id: number): Heard {
	let told = -1;
	return (done, what) => {
		const hundredth = Math.floor(done * 100);
		if (hundredth === told || !process.connected) return;
		told = hundredth;
		process.send!({ id, is: 'under-way', done, what } satisfies Answered);
	};
}

async function answer({ id, task, args }: Asked): Promise<Answered> {
	try {
		const house = await services('a planner');
		if (!bulk && ofSheet.has(task)) {
			const [, asked] = args as [User, Spoken | { readonly sheet: Spoken }];
			const { audience } = 'sheet' in asked ? asked.sheet : asked;
			if (await isLarge(house.db, audience)) return { id, is: 'for-bulk' };
		}
		if (!bulk && ofEverybody.has(task) && (await isLargeDistrict(house.db)))
			return { id, is: 'for-bulk' };
		const run = tasks[task] as (s: House, ...rest: readonly unknown[]) => Promise<unknown>;
		return { id, is: 'done', value: await run({ ...house, heard: teller(id) }, ...args) };
	} catch (error) {
		tellMachine('planner', `${task} failed`, error);
		return { id, is: 'failed', message: (error as Error).message };
	}
}

process.on('message', (asked: Asked) => {
	void answer(asked).then((answered) => {
		if (process.connected) process.send!(answered);
	});
});
process.on('disconnect', () => process.exit(0));
// In development it ends when it was built anew; the next question starts the new one.
if (process.env.IDLE_COURIER_DEV)
	watchFile(process.argv[1]!, { interval: 300 }, () => process.exit(0));
// Whoever asks is asked to end, and ends this; a key in a terminal reaches both.
process.on('SIGINT', () => {});
process.on('SIGTERM', () => {});
