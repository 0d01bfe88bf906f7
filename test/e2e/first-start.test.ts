import { execFileSync, spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative, resolve } from 'node:path';
import { expect } from 'chai';
import { simpleParser } from 'mailparser';
import type { Page } from 'playwright-core';
import { SMTPServer } from 'smtp-server';
import { setClock } from '../../src/lib/server/clock';
import { openDatabase, type Db } from '../../src/lib/server/db/open';
import { csvText, putZip, smallSchool } from '../unit/server/desk/roster/roster-files';
import { countOf, freePorts, json, stack, until } from './stack';
import { sendSheet, setHold, settled, tally, write } from './write-page';

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

/** A mail server that asks for user and password (RFC 4954), and the letters it has taken. */
async function mailServer() {
	const letters: { readonly to: string; readonly subject: string; readonly text: string }[] = [];
	const server = new SMTPServer({
		disableReverseLookup: true,
		closeTimeout: 50,
		onAuth: ({ username, password }, _session, done) =>
			username === 'district' && password === 'tide/table@9'
				? done(null, { user: username })
				: done(new Error('Authentication credentials invalid')),
		onData(stream, session, done) {
			simpleParser(stream).then(({ subject, text }) => {
				letters.push({
					to: session.envelope.rcptTo[0]!.address,
					...{ subject: subject ?? '', text: text ?? '' }
				});
				done(null, '2.0.0 taken');
			}, done);
		}
	});
	server.on('error', () => {});
	await new Promise<void>((r) => server.listen(0, '127.0.0.1', () => r()));
	return {
		letters,
		port: (server.server.address() as { port: number }).port,
		close: () => new Promise<void>((r) => server.close(() => r()))
	};
}

describe('run for real, from an empty folder', () => {
	const folder = mkdtempSync(join(tmpdir(), 'idle-courier-production-'));
	const data = join(folder, 'data');
	let url: string;
	let env: NodeJS.ProcessEnv;
	let smtp: Awaited<ReturnType<typeof mailServer>>;
	let exchange: ChildProcess;
	let exchangePort: number;
	let exchangeDesk: string;
	let main: ChildProcess;
	let said = '';
	let page: Page;
	let db: Db;
	/** The address with the key, as it was printed last. */
	const printed = () => [...said.matchAll(/http:\S+\/first\/\S+/g)].at(-1)?.[0] ?? '';

	async function start() {
		said = '';
		main = spawn(process.execPath, [join('upkeep', 'start.mjs')], {
			...{ cwd: folder, env, stdio: ['ignore', 'pipe', 'pipe'] }
		});
		for (const stream of [main.stdout!, main.stderr!])
			stream.on('data', (chunk: Buffer) => (said += chunk.toString()));
		await until('the web server answers', async () => {
			expect(main.exitCode, said).to.equal(null);
			return fetch(`${url}/health`).then(
				() => true,
				() => false
			);
		});
	}
	const end = async (child: ChildProcess) => {
		if (child.exitCode !== null || child.signalCode !== null) return;
		const ended = new Promise((r) => child.once('exit', r));
		child.kill('SIGTERM');
		await ended;
	};

	before(async function () {
		this.timeout(0);
		const packages = productionPackages();
		expect(packages).to.include.members(['sequelize', 'sqlite3', 'ical.js']);
		expect(packages).not.to.include.members(['eslint', 'typescript', '@faker-js/faker']);
		mkdirSync(join(folder, 'node_modules'));
		for (const name of packages) {
			mkdirSync(join(folder, 'node_modules', name, '..'), { recursive: true });
			put(resolve('node_modules', name), join(folder, 'node_modules', name));
		}
		for (const part of ['build', 'package.json']) put(resolve(part), join(folder, part));
		mkdirSync(join(folder, 'upkeep'));
		for (const part of ['start.mjs', 'server-env.mjs'])
			put(resolve('upkeep', part), join(folder, 'upkeep', part));
		const [port, returns, smpp, desk] = (await freePorts(4)) as [number, number, number, number];
		url = `http://localhost:${port}`;
		env = {
			...{ PATH: process.env.PATH, PORT: String(port) },
			...{ IDLE_COURIER_DATA: data, IDLE_COURIER_RETURN_PORT: String(returns) }
		};
		smtp = await mailServer();
		exchangePort = smpp;
		exchangeDesk = `http://localhost:${desk}`;
		exchange = spawn(process.execPath, [resolve('build/processes/exchange.js')], {
			env: {
				...{ PATH: process.env.PATH, STANDIN_DATA: join(folder, 'exchange') },
				...{ EXCHANGE_SMPP_PORT: String(smpp), EXCHANGE_HTTP_PORT: String(desk) }
			},
			stdio: 'ignore'
		});
		await start();
		const s = await stack();
		page = await (await s.context()).newPage();
		db = await openDatabase(join(data, 'courier.sqlite'));
	});
	after(async () => {
		await page.context().close();
		await db.close();
		await end(main);
		await end(exchange);
		await smtp.close();
		rmSync(folder, { recursive: true, force: true });
	});
	const open = async (path: string) => {
		await page.goto(path.startsWith('http') ? path : `${url}${path}`);
		await page.waitForSelector('html[data-ready]');
	};
	const password = 'seven boats leave the quay';
	async function found(given: string, secret = password) {
		await page.getByLabel('Its name').fill('Saltgrass Point Schools');
		await page.getByLabel('The zone of its clocks').selectOption('America/New_York');
		await page.getByLabel('A time of day is written').selectOption('12');
		await page.getByLabel('A number without a country').selectOption('US');
		await page.getByLabel('Given name').fill(given);
		await page.getByLabel('Family name').fill('Ferro');
		await page.getByLabel('Mail address').fill('odile@saltgrass.example');
		await page.getByLabel('User name').fill('odile');
		await page.locator('input[name=password]').fill(secret);
		await page.locator('input[name=again]').fill(secret);
		await page.getByRole('button', { name: 'Go on' }).click();
	}

	it('starts with nothing installed that is for making it, prints one address, and lets nobody in without its key', async () => {
		await until('the address is printed', async () => printed());
		expect(said).not.to.match(/ERR_MODULE_NOT_FOUND|Cannot find/);
		for (const wrong of ['/first/no', `${printed()}x`, `/first/${'a'.repeat(43)}`]) {
			await open(wrong);
			expect(await page.innerText('h1')).to.equal('This address opens nothing');
		}
		await open('/week');
		expect(page.url()).to.contain('/sign-in');
		// Nothing of the demo is there.
		expect(await page.innerText('main')).not.to.contain('slow-ferry');
		expect((await fetch(`${url}/stand-ins`, { redirect: 'manual' })).status).to.equal(303);
	});

	it('prints another key when it is started again, and the one of before is good no more', async () => {
		const before = printed();
		await end(main);
		expect(main.exitCode).to.equal(0);
		await start();
		const after = await until('the address is printed', async () => printed());
		expect(after).not.to.equal(before);
		await open(before);
		expect(await page.innerText('h1')).to.equal('This address opens nothing');
	});

	it('asks for the district and its first person, keeps what was typed, and is used up by them', async () => {
		const address = printed();
		await open(address);
		await found('Odile', 'too short');
		await page.getByText('15 are the least').waitFor();
		expect(await page.getByLabel('Its name').inputValue()).to.equal('Saltgrass Point Schools');
		// Somebody else has it open too, and is later.
		const late = await page.context().newPage();
		await late.goto(address);
		await late.waitForSelector('html[data-ready]');
		await found('Odile');
		await page.waitForURL('**/settings/start');
		await page.waitForSelector('html[data-ready]');
		expect(await page.innerText('main')).to.contain('Saltgrass Point Schools is set up');
		expect(await page.locator('main li.done').count()).to.equal(0);
		const first = page;
		page = late;
		await found('Mallory');
		await page.getByText('It has been used').waitFor();
		await late.close();
		page = first;
		expect(await countOf(db, 'sign_in')).to.equal(1);
		await open(address);
		expect(await page.innerText('h1')).to.equal('This address opens nothing');
		// A Tuesday morning, whenever this is run: nothing is quiet.
		await setClock(db, Date.parse('2027-03-09T15:00:00Z'));
	});

	it('says everywhere that no letter leaves yet', async () => {
		await until(
			'the courier has looked',
			async () => (await countOf(db, 'courier_way WHERE working = 0')) > 0
		);
		for (const place of ['/week', '/write']) {
			await open(place);
			await page.getByText('There is no mail server yet, so nothing leaves by email.').waitFor();
		}
	});

	it('tries a mail server on the spot, says which step failed, and keeps nothing of it', async () => {
		const tryIt = async (change: () => Promise<void>, stopped: RegExp) => {
			await change();
			await page.getByRole('button', { name: 'Try it, and keep it' }).click();
			await page.getByRole('button', { name: 'Try it, and keep it' }).waitFor();
			await until('it has been tried', async () =>
				stopped.test(await page.locator('section[role=status]').innerText())
			);
		};
		await open('/settings/mail');
		await page.getByLabel('Name of the server').fill('no-such-machine.invalid');
		await page.getByLabel('The connection is encrypted').selectOption('after-greeting');
		await page.getByLabel('User (').fill('district');
		await page.locator('input[name=password]').fill('wrong');
		await page.getByLabel('Sender that families see').fill('letters@saltgrass.example');
		await page.getByLabel('Domain for what comes back').fill('return.saltgrass.example');
		// RFC 2606 section 2: there is never a machine by a name that ends so.
		await tryIt(async () => {}, /stopped at: Its name is found[\s\S]*Look for a slip/);
		const [nobody] = (await freePorts(1)) as [number];
		await tryIt(async () => {
			await page.getByLabel('Name of the server').fill('localhost');
			await page.getByLabel('Port').fill(String(nobody));
		}, /stopped at: It is there[\s\S]*nothing answers/);
		await tryIt(
			() => page.getByLabel('Port').fill(String(exchangePort)),
			/stopped at: It greets us/
		);
		await tryIt(
			() => page.getByLabel('Port').fill(String(smtp.port)),
			/stopped at: It lets us in[\s\S]*does not take user and password[\s\S]*credentials invalid/
		);
		expect(await page.innerText('main')).to.contain('Nothing was changed');
		expect(await countOf(db, `setting WHERE key = 'providers'`)).to.equal(0);
		expect(smtp.letters).to.deep.equal([]);
	});

	it('keeps the one that works, sealed, and asks for the figures of the letter', async () => {
		await page.locator('input[name=password]').fill('tide/table@9');
		await page.getByRole('button', { name: 'Try it, and keep it' }).click();
		await page.getByText('It works, and is kept.').waitFor();
		const [letter] = await until('the letter is there', async () =>
			smtp.letters.length > 0 ? smtp.letters : null
		);
		expect(letter!.to).to.equal('odile@saltgrass.example');
		const figures = /\d{6}/.exec(letter!.subject)![0];
		expect(letter!.text).to.contain(figures);
		const wrong = figures === '123456' ? '123457' : '123456';
		await page.getByLabel('The six figures').fill(wrong);
		await page.getByRole('button', { name: 'It has arrived' }).click();
		await page.getByText('These are not the figures').waitFor();
		await page.getByLabel('The six figures').fill(figures);
		await page.getByRole('button', { name: 'It has arrived' }).click();
		await page.getByText('The letter that was tried has arrived.').waitFor();
		// The database alone, and its log, hold no password.
		for (const name of ['courier.sqlite', 'courier.sqlite-wal'])
			expect(readFileSync(join(data, name)).includes('tide'), name).to.equal(false);
		await until(
			'the courier has followed',
			async () => (await countOf(db, `courier_way WHERE way = 'email' AND working = 1`)) === 1
		);
	});

	it('starts again what ends by itself, and ends where something cannot start, saying why', async () => {
		const pid = async () =>
			(await db.one<{ pid: number }>('SELECT pid FROM courier WHERE pid > 0'))?.pid;
		const before = await until('the courier is in office', pid);
		process.kill(before, 'SIGKILL');
		await until('another one is in office', async () => (await pid()) !== before);
		expect(said).to.contain('The courier ended (SIGKILL); it is started again.');
		const [port] = (await freePorts(1)) as [number];
		let words = '';
		const wrong = spawn(process.execPath, [join('upkeep', 'start.mjs')], {
			cwd: folder,
			env: {
				...{ PATH: process.env.PATH, PORT: String(port) },
				...{ IDLE_COURIER_DATA: join(folder, 'other'), IDLE_COURIER_SMTP: 'mail.example' }
			},
			stdio: ['ignore', 'ignore', 'pipe']
		});
		wrong.stderr!.on('data', (chunk: Buffer) => (words += chunk.toString()));
		expect(await new Promise((r) => wrong.once('exit', r))).to.equal(1);
		expect(words)
			.to.contain('IDLE_COURIER_SMTP: must be an smtp or smtps address')
			.and.contain('cannot be kept up');
	});

	it('tries the text provider to the receipt', async () => {
		await open('/settings/texts');
		await page.getByLabel('Name of the provider’s machine').fill('localhost');
		await page.getByLabel('Port').fill(String(exchangePort));
		await page.getByLabel('The connection is encrypted').selectOption('no');
		await page.getByLabel('System id').fill('courier');
		await page.locator('input[name=password]').fill('wrong');
		await page.getByLabel('Number that texts come from').fill('+1 211 555 0199');
		await page.getByLabel('Your phone').fill('(207) 555-0143');
		await page.getByRole('button', { name: 'Try it, and keep it' }).click();
		await page.getByText('It stopped at: It lets us in.').waitFor();
		await page.locator('input[name=password]').fill('courier');
		await page.getByRole('button', { name: 'Try it, and keep it' }).click();
		await page.getByText('It works, and is kept.').waitFor();
		expect(await page.locator('section[role=status]').innerText()).to.contain('the phone has it');
		const { texts } = await json<{ texts: { to: string; text: string }[] }>(
			`${exchangeDesk}/texts?newest=1`
		);
		expect(texts).to.have.length(1);
		await page.getByLabel('The six figures').fill(/\d{6}/.exec(texts[0]!.text)![0]);
		await page.getByRole('button', { name: 'It has arrived' }).click();
		await page.getByText('The text that was tried has arrived.').waitFor();
	});

	it('every place opens; People and Write say that nobody is here yet, and where the roster is brought', async () => {
		for (const place of ['/week', '/reach', '/people', '/replies', '/write']) {
			await open(place);
			expect(await page.locator('body').innerText(), place).not.to.contain('went wrong');
			if (place === '/people' || place === '/write')
				await page
					.locator('main a[href="/people/rosters"]', { hasText: 'Bring a roster' })
					.waitFor();
		}
		await open('/settings/start');
		expect(await page.locator('main li.done').count()).to.equal(2);
		expect(await page.locator('main .bx--btn').innerText()).to.equal('The roster');
	});

	it('a roster is brought, custody is said, it comes in, and the first letter arrives', async () => {
		const path = join(folder, 'harbor.zip');
		await putZip(
			path,
			Object.fromEntries(Object.entries(smallSchool()).map(([name, rows]) => [name, csvText(rows)]))
		);
		await open('/people/rosters');
		await page.getByLabel('Where it comes from').fill('Harbor Office');
		await page.setInputFiles('input[type=file]', {
			...{ name: 'harbor.zip', mimeType: 'application/zip' },
			buffer: readFileSync(path)
		});
		await page.waitForURL(/\/people\/rosters\/\d+/);
		await page.locator('summary', { hasText: 'Say it now' }).click();
		await page.locator('form[action="?/custody"] label', { hasText: 'custody' }).first().click();
		await page.getByRole('button', { name: 'Write it down, look again' }).click();
		await page.locator('summary', { hasText: 'Custody of new contacts is said' }).waitFor();
		await page.getByRole('button', { name: /^Take in \d+ new, 0 changed, 0 gone$/ }).click();
		await page.getByText('It came in', { exact: true }).waitFor();

		await open('/people');
		await page.locator('main input').first().fill('homeroom 4-a');
		await page.locator('.found li', { hasText: 'Homeroom 4-A' }).first().waitFor();
		await page.keyboard.press('Enter');
		await page.waitForURL(/\/people\/sections\/\d+/);
		await page.getByRole('link', { name: 'Write to them' }).click();
		await settled(page);
		await write(page, 'The first boat', 'It leaves at eight.');
		await setHold(page, 0);
		await settled(page);
		expect(await tally(page)).to.include({ people: 2, students: 2 });
		const id = await sendSheet(page);
		const letters = await until('both letters are there', async () => {
			const ours = smtp.letters.filter((l) => l.subject.includes('The first boat'));
			return ours.length === 2 && ours;
		});
		expect(letters.map((l) => l.to).sort()).to.deep.equal([
			'ana@harbormail.example',
			'b.pham@ferrynet.example'
		]);
		await until(
			'Reach knows that they left',
			async () =>
				(await countOf(
					db,
					`delivery WHERE dispatch_id = ${id} AND way = 'email' AND state IN ('sent', 'delivered')`
				)) === 2
		);
		await open('/settings/start');
		expect(await page.locator('main li.done').count()).to.equal(3);
	});
});
