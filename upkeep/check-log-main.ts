import { existsSync } from 'node:fs';
import { checkLog } from '../src/lib/server/access/log';
import { migrate } from '../src/lib/server/db/migrate';
import { openDatabase } from '../src/lib/server/db/open';
import { readSettings } from '../src/lib/server/settings';

/**
 * `npm run check-log`: follows the log of what was done from its first line, and says where a line was changed or is
 * missing. Given a hash that it printed before (`npm run check-log -- HASH`), it says whether that line is still in it:
 * a log that was written anew as a whole holds together, and is told by that. Ends with 1 where something is wrong.
 */
async function main(): Promise<boolean> {
	const { databaseFile } = readSettings();
	if (!existsSync(databaseFile)) throw new Error(`There is no database at ${databaseFile}.`);
	const [noted] = process.argv.slice(2);
	if (noted !== undefined && !/^[0-9a-f]{64}$/.test(noted))
		throw new Error(
			'That is no hash of a line: it has 64 figures and letters a to f. Give the one that was printed.'
		);
	const db = await openDatabase(databaseFile);
	await migrate(db);
	const { lines, bound, fault, found } = await checkLog(db, noted);
	await db.close();
	const say = (line: string) => process.stdout.write(`${line}\n`);
	if (fault) {
		say(
			`Line ${fault.id} ${fault.what === 'missing' ? 'is missing' : 'was changed, or is not the one that was written'}. The ${lines} lines before it hold.`
		);
		return false;
	}
	say(`${lines} lines, each bound to the one before it. The last is bound as\n${bound}`);
	if (noted !== undefined)
		say(
			found
				? 'The line that you noted is in it.'
				: 'The line that you noted is not in it: this is another log, or one that was written anew.'
		);
	return noted === undefined || found;
}

main().then(
	(holds) => process.exit(holds ? 0 : 1),
	(error: Error) => {
		process.stderr.write(`${error.message}\n`);
		process.exit(1);
	}
);
