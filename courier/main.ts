import { linkKey } from '../src/lib/server/access/link-key';
import { migrate } from '../src/lib/server/db/migrate';
import { openDatabase } from '../src/lib/server/db/open';
import { CannotStart, readSettings } from '../src/lib/server/settings';
import { ask } from '../src/lib/server/planner/planner';
import { makeCourier } from './courier';
import { threadedMail, threadedText } from './threaded';

/**
 * The courier, a process of its own. It shares only the database with the web server; either can be
 * killed and started again at any moment.
 */
const say = (line: string) => process.stdout.write(`courier: ${line}\n`);

async function main(): Promise<void> {
	const settings = readSettings();
	const db = await openDatabase(settings.databaseFile);
	await migrate(db);
	const key = await linkKey(settings.dataFolder, db);
	const gatewayFile = new URL('gateway-thread.js', import.meta.url);
	const courier = makeCourier(db, settings, key, {
		// Planning the whole district takes seconds: a thread does it while copies go on leaving.
		plan: (id) => ask('replan', id),
		release: (id) => ask('release', id),
		followZone: () => ask('followZone'),
		tellStaff: () => ask('tellStaff'),
		rosters: {
			turnDay: async () => {
				await ask('turnRosterDay');
				await ask('replanAhead');
			},
			bring: async (folder, names) => {
				if (await ask('bringRosterFrom', folder, names)) await ask('replanAhead');
			}
		},
		say,
		mail: (url, dkim) => threadedMail(gatewayFile, url, dkim),
		text: (url, onReceipt) => threadedText(gatewayFile, url, onReceipt)
	});
	let closing: Promise<unknown> | null = null;
	const end = (): void => {
		closing ??= courier
			.close()
			.then(() => db.close())
			.then(
				() => say('stopped'),
				(error: Error) => say(`stopped; ${error.message}`)
			)
			.finally(() => process.exit(0));
	};
	process.on('SIGINT', end);
	process.on('SIGTERM', end);
	await courier.run();
}

main().catch((error: Error) => {
	process.stderr.write(`courier: ${error instanceof CannotStart ? error.message : error.stack}\n`);
	process.exit(1);
});
