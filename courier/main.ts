import { migrate } from '../src/lib/server/db/migrate';
import { openDatabase } from '../src/lib/server/db/open';
import { linkKey, readSettings } from '../src/lib/server/settings';
import { ask } from '../src/lib/server/planner/planner';
import { makeCourier } from './courier';
import { threadedMail, threadedText } from './threaded';

/**
 * The courier, a process of its own. It shares only the database with the web server; either can be
 * killed and started again at any moment.
 */
const beatMs = 1_000;
const lookMs = 150;

const say = (line: string) => process.stdout.write(`courier: ${line}\n`);
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

const settings = readSettings();
const db = await openDatabase(settings.databaseFile);
await migrate(db);
const gatewayFile = new URL('gateway-thread.js', import.meta.url);
const courier = makeCourier(db, settings, linkKey(settings.dataFolder), {
	// Planning the whole district takes seconds: a thread does it while copies go on leaving.
	plan: (id) => ask('replan', id),
	mail: (url) => threadedMail(gatewayFile, url),
	text: (url, onReceipt) => threadedText(gatewayFile, url, onReceipt)
});

let settling: Promise<unknown> | null = null;
function settleMeanwhile(): void {
	settling ??= courier
		.settle()
		.catch((error: Error) => say(`could not work out what leaves next: ${error.message}`))
		.finally(() => (settling = null));
}

/** What is written to the staff by itself waits for no copy; looked at now and then. */
const tellMs = 5_000;
let lastTell = 0;
let telling: Promise<unknown> | null = null;
function tellMeanwhile(): void {
	if (Date.now() - lastTell < tellMs) return;
	lastTell = Date.now();
	telling ??= ask('tellStaff')
		.catch((error: Error) => say(`could not write to the staff: ${error.message}`))
		.finally(() => (telling = null));
}

let stopping = false;
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
	process.on(signal, () => {
		stopping = true;
	});
}

let inOffice = false;
let lastBeat = 0;
let opened = false;
let lastTrouble = '';

while (!stopping) {
	try {
		if (Date.now() - lastBeat >= beatMs) {
			const holds = await courier.beat();
			if (holds && !inOffice) say('at work');
			if (!holds && lastTrouble !== 'standby') {
				lastTrouble = 'standby';
				say('another courier is at work; standing by');
			}
			inOffice = holds;
			lastBeat = Date.now();
		}
		if (inOffice && !opened) {
			await courier.open();
			opened = true;
		}
		if (inOffice) {
			settleMeanwhile();
			tellMeanwhile();
			await courier.round();
			lastTrouble = '';
		}
	} catch (error) {
		const { code, message } = error as NodeJS.ErrnoException;
		const trouble =
			code === 'EADDRINUSE'
				? `port ${settings.returnPort} is taken, so returned mail cannot come in: free it, or set IDLE_COURIER_RETURN_PORT`
				: message;
		if (trouble !== lastTrouble) say(`could not go on: ${trouble}; trying again`);
		lastTrouble = trouble;
		await pause(1_000);
	}
	await pause(lookMs);
}
await courier.close();
await db.close();
say('stopped');
process.exit(0);
