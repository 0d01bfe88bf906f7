/**
 * What came of a term in the large district, in a process of its own: `term.ts <file> <ours|read>`. Forty dispatches to
 * everybody are put there as the courier would have left them. Prints one line of JSON.
 *
 *   ours  the families that nothing reached in a month, and the report of the term
 *   read  the bare sqlite3 driver reads the same deliveries, row by row, and does nothing with them
 */
import { performance } from 'node:perf_hooks';
import sqlite3 from 'sqlite3';
import { setClock } from '../../src/lib/server/clock';
import { migrate } from '../../src/lib/server/db/migrate';
import { openDatabase } from '../../src/lib/server/db/open';
import { readRoster } from '../../src/lib/server/db/roster';
import { reportAskedSchema, termReport } from '../../src/lib/server/desk/report/term-report';
import {
	countSilent,
	silentFamilies,
	silentFilterSchema
} from '../../src/lib/server/desk/silent/silent-families';
import { ownCopy } from './bench-copy';
import { putPast } from './bench-past';
import { openFor } from './bench-sheet';

process.setSourceMapsEnabled(false);

const [file, side] = process.argv.slice(2) as [string, 'ours' | 'read'];
const copy = ownCopy(file);
const db = await openDatabase(copy, { durable: false });
await migrate(db);
const user = await openFor(db);
const time = Date.parse('2027-03-09T15:00:00Z');
await setClock(db, time);
await putPast(db, user, 40, time);

async function took(work: () => Promise<unknown>): Promise<number> {
	const start = performance.now();
	await work();
	return performance.now() - start;
}
const result: Record<string, number> = {
	copies: (await db.one<{ n: number }>('SELECT count(*) AS n FROM delivery'))!.n
};
if (side === 'ours') {
	// As the planner does, which has the roster in memory.
	await readRoster(db);
	result.silent = await took(() => countSilent(db, user));
	result.page = await took(() => silentFamilies(db, user, silentFilterSchema.parse({})));
	result.report = await took(async () => {
		const report = await termReport(db, user, reportAskedSchema.parse({}));
		if (!report) throw new Error('no term has begun');
	});
} else {
	const bare = new sqlite3.Database(copy);
	result.read = await took(
		() =>
			new Promise<void>((done, no) =>
				bare.each(
					'SELECT dispatch_id, person_id, way, state, left_at, read_at FROM delivery',
					(error) => (error ? no(error) : undefined),
					(error) => (error ? no(error) : done())
				)
			)
	);
}
await db.close();
process.stdout.write(`${JSON.stringify(result)}\n`);
process.exit(0);
