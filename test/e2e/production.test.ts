import { execFileSync, spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative, resolve } from 'node:path';
import { expect } from 'chai';
import { openDatabase } from '../../src/lib/server/db/open';
import { freePorts, until } from './stack';

/** Names of the installed packages that `npm ci --omit=dev` would install as well. */
function productionPackages(): string[] {
	// What npm has to say about peers it would rather have is no matter here.
	const { stdout } = spawnSync('npm', ['ls', '--omit=dev', '--all', '--parseable'], {
		encoding: 'utf8'
	});
	const names = stdout.split('\n').flatMap((path) => {
		const within = relative(resolve('node_modules'), path);
		const [first, second] = within.split('/');
		if (!first || first.startsWith('..')) return [];
		return first.startsWith('@') ? `${first}/${second}` : first;
	});
	return [...new Set(names)];
}

/** Puts a folder or file elsewhere: hard links where they can be made, which unlike a symbolic one do not lead back to the rest, else a copy. */
function put(from: string, to: string): void {
	if (spawnSync('cp', ['-al', from, to]).status === 0) return;
	rmSync(to, { recursive: true, force: true });
	execFileSync('cp', ['-a', from, to]);
}

describe('as it is run for real', () => {
	const folder = mkdtempSync(join(tmpdir(), 'idle-courier-production-'));
	const children: ChildProcess[] = [];
	after(async () => {
		for (const child of children) {
			const ended = new Promise((r) => child.once('exit', r));
			child.kill('SIGKILL');
			await ended;
		}
		rmSync(folder, { recursive: true, force: true });
	});

	it('both processes start on an empty folder with nothing installed that is for making it', async () => {
		const packages = productionPackages();
		expect(packages).to.include.members(['sequelize', 'sqlite3', 'ical.js']);
		expect(packages).not.to.include.members(['eslint', 'typescript', '@faker-js/faker']);
		mkdirSync(join(folder, 'node_modules'));
		for (const name of packages) {
			mkdirSync(join(folder, 'node_modules', name, '..'), { recursive: true });
			put(resolve('node_modules', name), join(folder, 'node_modules', name));
		}
		for (const part of ['build', 'package.json']) {
			put(resolve(part), join(folder, part));
		}
		const [port, returns] = (await freePorts(2)) as [number, number];
		const data = join(folder, 'data');
		mkdirSync(data);
		const said: string[] = [];
		const start = (file: string) => {
			const child = spawn(process.execPath, [join('build', file)], {
				cwd: folder,
				env: {
					PATH: process.env.PATH,
					NODE_ENV: 'production',
					HOST: '127.0.0.1',
					PORT: String(port),
					IDLE_COURIER_DATA: data,
					IDLE_COURIER_URL: `http://localhost:${port}`,
					IDLE_COURIER_RETURN_PORT: String(returns)
				},
				stdio: ['ignore', 'pipe', 'pipe']
			});
			children.push(child);
			for (const stream of [child.stdout!, child.stderr!]) {
				stream.on('data', (chunk: Buffer) => said.push(chunk.toString()));
			}
			return child;
		};
		const web = start('web/index.js');
		await until('the web server answers', async () => {
			expect(web.exitCode, said.join('')).to.equal(null);
			return fetch(`http://localhost:${port}/health`).then(
				() => true,
				() => false
			);
		});
		const courier = start('processes/courier.js');
		const db = await openDatabase(join(data, 'courier.sqlite'));
		try {
			await until('the courier is in office', async () => {
				expect(courier.exitCode, said.join('')).to.equal(null);
				return (await db.one('SELECT 1 FROM courier WHERE beats > 0')) !== undefined;
			});
		} finally {
			await db.close();
		}
		expect(said.join('')).not.to.match(/ERR_MODULE_NOT_FOUND|Cannot find/);
	});
});
