/** What the two commands have in common: installing what is missing, building what is stale. Plain Node. */
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));

if (Number(process.versions.node.split('.')[0]) < 20) {
	process.stderr.write(`Node 20 or newer is needed; this is ${process.version}.\n`);
	process.exit(1);
}

/** Runs a command in the project's folder with its output shown; ends the process where it fails. */
export function run(command, args, env = process.env) {
	const { status, error } = spawnSync(command, args, { cwd: root, stdio: 'inherit', env });
	if (error) {
		process.stderr.write(`${command} could not be started: ${error.message}\n`);
		process.exit(1);
	}
	if (status !== 0) process.exit(status ?? 1);
}

const changedAt = (path) => (existsSync(path) ? statSync(path).mtimeMs : 0);

/** Installs the packages of the lock file where they are missing or older than it. sqlite3 compiles here, about two minutes. */
export function install() {
	const done = join(root, 'node_modules', '.package-lock.json');
	const sqlite = join(root, 'node_modules', 'sqlite3', 'build', 'Release', 'node_sqlite3.node');
	if (!existsSync(done) || changedAt(done) < changedAt(join(root, 'package-lock.json'))) {
		process.stdout.write(
			'Installing packages; the database engine compiles, about three minutes.\n'
		);
		run('npm', ['ci', '--ignore-scripts', '--no-audit', '--no-fund', '--loglevel=error']);
	}
	// No package's install script runs but that of the database engine.
	if (!existsSync(sqlite)) {
		run('npm', ['rebuild', 'sqlite3', '--ignore-scripts=false', '--loglevel=error']);
	}
}

function newest(path) {
	if (!existsSync(path)) return 0;
	if (!statSync(path).isDirectory()) return changedAt(path);
	return Math.max(0, ...readdirSync(path).map((name) => newest(join(path, name))));
}

/** Builds the web server and the processes where a source is newer than the build. */
export function build() {
	const sources = [
		'src',
		'courier',
		'standin',
		'upkeep',
		'demo',
		'static',
		'package-lock.json',
		'svelte.config.js',
		'vite.config.ts',
		'processes.build.mjs'
	];
	const built = Math.min(
		changedAt(join(root, 'build', 'web', 'index.js')),
		changedAt(join(root, 'build', 'processes', 'courier.js'))
	);
	if (built > Math.max(...sources.map((s) => newest(join(root, s))))) return;
	process.stdout.write('Building.\n');
	run('node', [join('node_modules', 'vite', 'bin', 'vite.js'), 'build', '--logLevel', 'error']);
	run('node', ['processes.build.mjs']);
}
