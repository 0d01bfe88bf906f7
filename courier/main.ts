import { linkKey } from '../src/lib/server/access/link-key';
import { hasDistrict } from '../src/lib/server/db/district';
import { migrate } from '../src/lib/server/db/migrate';
import { openDatabase } from '../src/lib/server/db/open';
import { readProviders, type Providers } from '../src/lib/server/providers';
import { CannotStart, readSettings } from '../src/lib/server/settings';
import { tellMachine } from '../src/lib/server/machine-log';
import { ask } from '../src/lib/server/planner/planner';
import { makeCourier, type Courier } from './courier';
import { sleeper } from './sleeper';
import { threadedMail, threadedText } from './threaded';

/**
 * The courier, a process of its own. It shares only the database with the web server; either can be
 * killed and started again at any moment.
 */
const say = (line: string) => tellMachine('courier', line);

/** How often it is looked whether the district has other providers now, ms. */
const lookMs = 2_000;

async function main(): Promise<void> {
	const settings = readSettings();
	const db = await openDatabase(settings.databaseFile, { as: 'the courier' });
	await migrate(db);
	const key = await linkKey(settings.dataFolder, db);
	const gatewayFile = new URL('gateway-thread.js', import.meta.url);
	const courierWith = (providers: Providers): Courier =>
		makeCourier(db, { ...settings, ...providers }, key, {
			// Planning the whole district takes seconds: a thread does it while copies go on leaving.
			plan: (id) => ask('replan', id),
			release: (id) => ask('release', id),
			releaseFeed: (id, taken) => ask('releaseFeed', id, taken),
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

	let courier: Courier | null = null;
	let ending = false;
	const rest = sleeper();
	let closing: Promise<unknown> | null = null;
	const end = (): void => {
		ending = true;
		rest.end();
		closing ??= Promise.resolve(courier?.close())
			.then(() => db.close())
			.then(
				() => say('stopped'),
				(error: Error) => say(`stopped; ${error.message}`)
			)
			.finally(() => process.exit(0));
	};
	process.on('SIGINT', end);
	process.on('SIGTERM', end);

	/** What there is to be spoken to; null where the look failed: then it stays as it is. */
	const look = (): Promise<Providers | null> =>
		readProviders(db, key, settings).catch((error: Error) => {
			if (!ending) say(`could not look for its providers: ${error.message}`);
			return null;
		});
	if (!ending && !(await hasDistrict(db))) say('waiting for the first start to be done');
	while (!ending && !(await hasDistrict(db))) await rest.wait(lookMs);
	// The database is being closed: whoever asked for the end has it.
	if (ending) return;
	let providers = await readProviders(db, key, settings);
	while (!ending) {
		courier = courierWith(providers);
		const running = courier.run();
		const same = JSON.stringify(providers);
		for (;;) {
			await rest.wait(lookMs);
			if (ending) break;
			const seen = await look();
			if (seen === null || JSON.stringify(seen) === same) continue;
			providers = seen;
			break;
		}
		if (ending) {
			await running;
			break;
		}
		say('its providers were changed; it goes on with the new ones');
		await courier.close();
		await running;
	}
}

main().catch((error: Error) => {
	// Why it does not start is for whoever started it, in plain words.
	if (error instanceof CannotStart) process.stderr.write(`courier: ${error.message}\n`);
	else tellMachine('courier', 'it ends', error);
	process.exit(1);
});
