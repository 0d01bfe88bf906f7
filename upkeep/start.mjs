/**
 * `npm start`: the web server and the courier together, started again where one ends by itself. Plain Node. Each can be
 * started alone as well: `npm run web`, `npm run courier`.
 *
 *   PORT=4173 HOST=127.0.0.1 IDLE_COURIER_URL=https://letters.example IDLE_COURIER_DATA=/var/lib/idle-courier npm start
 */
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { serverEnv } from './server-env.mjs';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const say = (line) => process.stdout.write(`${line}\n`);
const give = (line) => {
	process.stderr.write(`${line}\n`);
	process.exit(1);
};

const port = Number(process.env.PORT || 4173);
if (!Number.isInteger(port) || port < 1 || port > 65535)
	give(`PORT is "${process.env.PORT}"; it must be a number from 1 to 65535.`);
if (!existsSync(join(root, 'build', 'web', 'index.js')))
	give('It is not built yet: npm run build, then npm start.');
const url = (process.env.IDLE_COURIER_URL || `http://localhost:${port}`).replace(/\/+$/, '');
const env = serverEnv(
	{
		...process.env,
		IDLE_COURIER_PLANNER:
			process.env.IDLE_COURIER_PLANNER || join(root, 'build', 'processes', 'planner.js')
	},
	{ url, port, host: process.env.HOST || '127.0.0.1' }
);

/** One that has run for so long has started well, ms. */
const wellMs = 10_000;
/** So often in a row it may end before that. */
const mostShort = 3;
/** How long an ending may take: systemd and containers kill after ten seconds or more, ms. */
const endingMs = 9_000;

const children = new Map();
let stopping = false;

function stop(code) {
	if (stopping) return;
	stopping = true;
	if (children.size === 0) process.exit(code);
	for (const child of children.values()) {
		child.once('exit', () => {
			if (children.size === 0) process.exit(code);
		});
		child.kill('SIGTERM');
	}
	setTimeout(() => {
		for (const child of children.values()) child.kill('SIGKILL');
	}, endingMs);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => stop(0));

/** Starts a process, and again whenever it ends by itself; one that cannot start ends all, so that it is seen. */
function keepUp(name, file, short = 0) {
	if (stopping) return;
	const began = Date.now();
	// A group of its own: Ctrl-C reaches it through us, so that all stop in order.
	const child = spawn(process.execPath, [join(root, file)], {
		env,
		cwd: root,
		stdio: ['ignore', 'inherit', 'inherit'],
		detached: true
	});
	children.set(name, child);
	child.once('exit', (code, signal) => {
		children.delete(name);
		if (stopping) return;
		const times = Date.now() - began < wellMs ? short + 1 : 0;
		if (times >= mostShort) {
			process.stderr.write(
				`The ${name} cannot be kept up, so all ends; what is wrong stands above.\n`
			);
			return stop(1);
		}
		process.stderr.write(`The ${name} ended (${signal ?? code}); it is started again.\n`);
		setTimeout(() => keepUp(name, file, times), 1_000 * (times + 1));
	});
}

keepUp('web server', 'build/web/index.js');
keepUp('courier', 'build/processes/courier.js');
say(`Idle Courier is at ${url}`);
