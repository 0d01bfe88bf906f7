/**
 * Real mail servers from Debian's packages at the other end: Postfix, Exim, and Postfix with greylisting. They run in a network namespace of
 * their own, in which nothing is but this machine's loopback. Where that cannot be made (no root, no namespaces, no
 * packages), it is said, and nothing is tested.
 */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { root } from '../../demo/prepare.mjs';

const quiet = (command, args, options = {}) =>
	spawnSync(command, args, { encoding: 'utf8', timeout: 300_000, ...options });

/** Fetches what is missing. Exim is only unpacked: Debian has one mail server installed at a time. */
function fetchServers(folder) {
	const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
	const missing = ['/usr/sbin/postfix', '/usr/sbin/postgrey', '/usr/sbin/ip', '/usr/sbin/useradd'];
	if (missing.some((file) => !existsSync(file))) {
		quiet('apt-get', ['update', '-qq'], { env });
		quiet('debconf-set-selections', [], {
			env,
			input: 'postfix postfix/main_mailer_type select No configuration\n'
		});
		const got = quiet(
			'apt-get',
			[
				'install',
				'-y',
				'-qq',
				'--no-install-recommends',
				'postfix',
				'postgrey',
				'iproute2',
				'passwd',
				'libgnutls-dane0',
				'libidn12',
				'libpcre2-8-0'
			],
			{ env }
		);
		if (got.status !== 0) return 'Postfix and Postgrey cannot be installed from Debian';
	}
	mkdirSync(folder, { recursive: true });
	quiet('apt-get', ['download', 'exim4-daemon-light'], { cwd: folder, env });
	const deb = readdirSync(folder).find((name) => name.endsWith('.deb'));
	if (!deb) return 'Exim cannot be had from Debian';
	quiet('dpkg', ['-x', join(folder, deb), folder]);
	if (quiet('id', ['Debian-exim']).status !== 0) {
		quiet('useradd', [
			'--system',
			'--no-create-home',
			'--shell',
			'/usr/sbin/nologin',
			'Debian-exim'
		]);
	}
	return existsSync(join(folder, 'usr/sbin/exim4')) ? null : 'Exim cannot be unpacked';
}

/** Runs the tests there. Resolves to what mocha printed and its code, or to why it could not be run. */
export function withMailServers() {
	if (process.getuid?.() !== 0) return { why: 'only root makes a network namespace' };
	const folder = mkdtempSync(join(tmpdir(), 'idle-mta-'));
	const space = `idle-${process.pid}`;
	try {
		const why = fetchServers(join(folder, 'exim'));
		if (why) return { why };
		if (quiet('ip', ['netns', 'add', space]).status !== 0) {
			return { why: 'a network namespace cannot be made here' };
		}
		quiet('ip', ['netns', 'exec', space, 'ip', 'link', 'set', 'lo', 'up']);
		const { status, stdout, stderr } = quiet(
			'ip',
			[
				'netns',
				'exec',
				space,
				process.execPath,
				'node_modules/mocha/bin/mocha.js',
				'--config',
				'test/mta/mocharc.json'
			],
			{
				cwd: root,
				env: { ...process.env, IDLE_MTA: folder },
				timeout: 400_000,
				killSignal: 'SIGKILL'
			}
		);
		return { code: status ?? 1, output: `${stdout}${stderr}` };
	} finally {
		quiet('ip', ['netns', 'del', space]);
		if (!process.env.IDLE_MTA_KEEP) rmSync(folder, { recursive: true, force: true });
	}
}

if (process.argv[1]?.endsWith('test/mta/run.mjs')) {
	const ran = withMailServers();
	process.stdout.write(ran.why ? `Skipped: ${ran.why}.\n` : ran.output);
	process.exit(ran.why ? 0 : ran.code);
}
