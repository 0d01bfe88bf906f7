import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { chmodSync, chownSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';

/** Where everything of this run lies. */
const folder = process.env.IDLE_MTA!;

/** Ports in the namespace, which holds nothing else. */
export const ports = {
	postfix: 2600,
	greylisting: 2601,
	exim: 2602,
	returns: 2526,
	policy: 10_023
};

export async function until<T>(what: string, is: () => Promise<T | false> | T | false): Promise<T> {
	const end = performance.now() + 60_000;
	for (;;) {
		const found = await is();
		if (found) return found;
		if (performance.now() > end) throw new Error(`waited in vain: ${what}`);
		await new Promise((r) => setTimeout(r, 50));
	}
}

const listens = (port: number) =>
	new Promise<boolean>((resolve) => {
		const socket = connect(port, '127.0.0.1');
		socket.once('connect', () => resolve((socket.destroy(), true)));
		socket.once('error', () => resolve(false));
	});

const idOf = (kind: '-u' | '-g', name: string): number =>
	Number(spawnSync('id', [kind, name], { encoding: 'utf8' }).stdout);

const dir = (path: string, owner?: string): string => {
	mkdirSync(path, { recursive: true });
	if (owner) chownSync(path, idOf('-u', owner), idOf('-g', owner));
	// Where root may not do everything, it writes only where all may.
	if (owner === 'Debian-exim') chmodSync(path, 0o777);
	return path;
};

/** Postfix as the mail system of harbormail.example: mailboxes, one that is passed on elsewhere, and the way back to us. A second port asks a greylisting policy first. */
export async function startPostfix(): Promise<void> {
	const base = dir(join(folder, 'postfix'));
	chmodSync(folder, 0o755);
	const mail = dir(join(base, 'mail'), 'postfix');
	dir(join(base, 'queue'));
	dir(join(base, 'data'), 'postfix');
	const uid = idOf('-u', 'postfix');
	const file = (name: string, lines: readonly string[]) => {
		writeFileSync(join(base, name), `${lines.join('\n')}\n`);
		return join(base, name);
	};
	const mailboxes = file('mailboxes', [
		'home@harbormail.example home',
		'reader@harbormail.example reader'
	]);
	const aliases = file('aliases', [
		'home@harbormail.example home@harbormail.example',
		'reader@harbormail.example reader@harbormail.example',
		'moved@harbormail.example gone@far.example'
	]);
	const transport = file('transport', [
		`return.example smtp:[127.0.0.1]:${ports.returns}`,
		`far.example smtp:[127.0.0.1]:${ports.exim}`
	]);
	file('main.cf', [
		'compatibility_level = 3.6',
		`queue_directory = ${join(base, 'queue')}`,
		`data_directory = ${join(base, 'data')}`,
		'daemon_directory = /usr/lib/postfix/sbin',
		'command_directory = /usr/sbin',
		'mail_owner = postfix',
		'setgid_group = postdrop',
		'myhostname = mx.harbormail.example',
		'mydestination =',
		'inet_interfaces = 127.0.0.1',
		'inet_protocols = ipv4',
		'mynetworks = 127.0.0.0/8',
		'smtp_dns_support_level = disabled',
		'smtp_host_lookup = native',
		'virtual_mailbox_domains = harbormail.example',
		`virtual_mailbox_base = ${mail}`,
		`virtual_mailbox_maps = texthash:${mailboxes}`,
		`virtual_alias_maps = texthash:${aliases}`,
		`virtual_minimum_uid = ${Math.min(100, uid)}`,
		`virtual_uid_maps = static:${uid}`,
		`virtual_gid_maps = static:${idOf('-g', 'postfix')}`,
		`transport_maps = texthash:${transport}`,
		'smtpd_relay_restrictions = permit_mynetworks, reject_unauth_destination',
		// Also of those on this machine, unknown mailboxes are refused.
		'smtpd_recipient_restrictions = reject_unlisted_recipient, permit_mynetworks, reject',
		'maillog_file_prefixes = /tmp, /var',
		`maillog_file = ${join(base, 'maillog')}`
	]);
	const services = [
		`${ports.postfix} inet n - n - - smtpd`,
		`${ports.greylisting} inet n - n - - smtpd\n  -o smtpd_recipient_restrictions=check_policy_service,inet:127.0.0.1:${ports.policy},permit_mynetworks,reject`,
		'pickup unix n - n 60 1 pickup',
		'cleanup unix n - n - 0 cleanup',
		'qmgr unix n - n 300 1 qmgr',
		'rewrite unix - - n - - trivial-rewrite',
		'bounce unix - - n - 0 bounce',
		'defer unix - - n - 0 bounce',
		'trace unix - - n - 0 bounce',
		'verify unix - - n - 1 verify',
		'proxymap unix - - n - - proxymap',
		'smtp unix - - n - - smtp',
		'relay unix - - n - - smtp',
		'error unix - - n - - error',
		'retry unix - - n - - error',
		'virtual unix - n n - - virtual',
		'anvil unix - - n - 1 anvil',
		'scache unix - - n - 1 scache',
		'postlog unix-dgram n - n - 1 postlogd'
	];
	file('master.cf', services);
	const started = spawnSync('postfix', ['-c', base, 'start'], { encoding: 'utf8' });
	if (started.status !== 0) throw new Error(`Postfix does not start: ${started.stderr}`);
	await until('Postfix listens', () => listens(ports.postfix));
}

export function stopPostfix(): void {
	spawnSync('postfix', ['-c', join(folder, 'postfix'), 'stop']);
}

/** Postgrey: the first try of each letter is put off for a second. */
export async function startGreylisting(): Promise<ChildProcess> {
	const child = spawn(
		'postgrey',
		[
			`--inet=127.0.0.1:${ports.policy}`,
			'--delay=1',
			`--dbdir=${dir(join(folder, 'postgrey'), 'postgrey')}`,
			'--auto-whitelist-clients=0'
		],
		{ stdio: 'ignore' }
	);
	await until('Postgrey listens', () => listens(ports.policy));
	return child;
}

/** Exim as the mail system of far.example, where only one mailbox is; it writes its reports itself, and hands them on to us. */
export async function startExim(): Promise<ChildProcess> {
	chmodSync(folder, 0o755);
	const base = dir(join(folder, 'exim-run'), 'Debian-exim');
	for (const name of ['spool', 'log', 'mail']) dir(join(base, name), 'Debian-exim');
	const conf = join(base, 'exim.conf');
	writeFileSync(
		conf,
		`primary_hostname = mx.far.example
exim_user = Debian-exim
exim_group = Debian-exim
spool_directory = ${join(base, 'spool')}
log_file_path = ${join(base, 'log')}/%slog
local_interfaces = 127.0.0.1
daemon_smtp_ports = ${ports.exim}
pid_file_path = ${join(base, 'exim.pid')}
disable_ipv6 = true
keep_environment =
exim_path = ${join(folder, 'exim/usr/sbin/exim4')}
host_lookup =
rfc1413_query_timeout = 0s
dsn_advertise_hosts = *
acl_smtp_rcpt = check
queue_run_max = 5
begin acl
check:
  # Mail that is passed on to us is refused at once where nobody is; our own courier's is taken, and returned later.
  accept condition = \${if eq{$sender_helo_name}{mx.harbormail.example}{no}{yes}}
  accept local_parts = there
  deny message = 550 5.1.1 no such person
begin routers
back:
  driver = manualroute
  domains = return.example
  transport = to_courier
  route_list = * 127.0.0.1 byname
  self = send
onward:
  driver = manualroute
  domains = harbormail.example
  transport = to_postfix
  route_list = * 127.0.0.1 byname
  self = send
mailbox:
  driver = accept
  domains = far.example
  local_parts = there
  transport = to_file
begin transports
to_courier:
  driver = smtp
  port = ${ports.returns}
  allow_localhost
  hosts_try_chunking =
to_postfix:
  driver = smtp
  port = ${ports.postfix}
  allow_localhost
  hosts_try_chunking =
to_file:
  driver = appendfile
  file = ${join(base, 'mail')}/there
  user = Debian-exim
`
	);
	chmodSync(conf, 0o644);
	const child = spawn(join(folder, 'exim/usr/sbin/exim4'), ['-C', conf, '-bdf', '-q2s'], {
		stdio: ['ignore', 'ignore', 'pipe']
	});
	let said = '';
	child.stderr!.on('data', (c: Buffer) => (said += c.toString()));
	await until('Exim listens', async () => {
		if (child.exitCode !== null) throw new Error(`Exim does not start: ${said}`);
		return listens(ports.exim);
	});
	return child;
}

/** What lies in a mailbox, as its mail system wrote it. */
export function mailbox(system: 'postfix' | 'exim', name: string): string {
	const file = join(folder, system === 'postfix' ? 'postfix/mail' : 'exim-run/mail', name);
	return existsSync(file) ? readFileSync(file, 'utf8') : '';
}

/** A mail system's own log, for a test that failed. */
export const eximLog = (): string => {
	const file = join(folder, 'exim-run/log/mainlog');
	return existsSync(file) ? readFileSync(file, 'utf8') : '';
};
