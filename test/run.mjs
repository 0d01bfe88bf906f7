/**
 * `npm test`: installs what is missing (Debian's Chromium too), builds, then lint, types, unit and
 * end-to-end tests. Everything runs even where something before it failed; the last line counts.
 */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';
import { build, install, root, run } from '../demo/prepare.mjs';
import { withMailServers } from './mta/run.mjs';

function installChromium() {
	if (existsSync('/usr/bin/chromium') && existsSync('/usr/bin/pdftotext')) return;
	process.stdout.write("Installing Debian's Chromium.\n");
	const root = process.getuid?.() === 0 ? [] : ['sudo'];
	for (const args of [
		['apt-get', 'update', '-qq'],
		['apt-get', 'install', '-y', '-qq', '--no-install-recommends', 'chromium', 'poppler-utils']
	]) {
		const [command, ...rest] = [...root, ...args];
		run(command, rest, { ...process.env, DEBIAN_FRONTEND: 'noninteractive' });
	}
}

/** Runs a step and shows its output, at once or when it is done; resolves to its exit code and what it printed. */
function step(name, command, args, { atOnce = false } = {}) {
	const heading = `\n== ${name}\n`;
	if (atOnce) process.stdout.write(heading);
	return new Promise((done) => {
		const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
		let output = '';
		for (const stream of [child.stdout, child.stderr]) {
			stream.on('data', (chunk) => {
				output += chunk;
				if (atOnce) process.stdout.write(chunk);
			});
		}
		child.on('close', (code) => {
			if (!atOnce) process.stdout.write(heading + output);
			done({ name, code: code ?? 1, output });
		});
	});
}

const node = process.execPath;
const bin = (name, file) => `node_modules/${name}/${file}`;
const number = (pattern, text) => Number(pattern.exec(text)?.[1] ?? 0);

/** What a step printed of its failures: a mocha run's from its count of them on, and the end of any other. */
const said = ({ name, output }) => {
	const from = output.search(/^ *\d+ failing/m);
	return `-- ${name}\n${from < 0 ? output.slice(-4000) : output.slice(from, from + 8000)}`;
};
/** Passed and failed of a mocha run. One that ended badly without a failure, or ran nothing, counts as a failure. */
function counted(ran) {
	const passed = number(/^ *(\d+) passing/m, ran.output);
	const failed =
		number(/^ *(\d+) failing/m, ran.output) || (ran.code !== 0 || passed === 0 ? 1 : 0);
	return { passed, failed, said: failed ? said(ran) : '' };
}
const whole = (ran) =>
	ran.code === 0 ? { passed: 1, failed: 0, said: '' } : { passed: 0, failed: 1, said: said(ran) };

async function reading() {
	return [
		whole(await step('lint', node, [bin('eslint', 'bin/eslint.js'), '.'])),
		whole(await step('what is used by nothing', node, [bin('knip', 'bin/knip.js')])),
		whole(
			await step('format', node, [
				bin('prettier', 'bin/prettier.cjs'),
				'--check',
				'--log-level',
				'warn',
				'.'
			])
		),
		whole(
			await step('types', node, [
				bin('svelte-check', 'bin/svelte-check'),
				'--tsconfig',
				'./tsconfig.json',
				'--fail-on-warnings'
			])
		)
	];
}
/** Every test file of the units. */
const all = readdirSync('test/unit', { recursive: true })
	.filter((name) => name.endsWith('.test.ts'))
	.map((name) => `test/unit/${name}`);
const mocha = [bin('mocha', 'bin/mocha.js'), '--config', 'test/unit/mocharc.json'];
const inFolder = (folder) => (name) => name.startsWith(`test/unit/${folder}/`);
const desk = all.filter(inFolder('server/desk'));
const core = all.filter(inFolder('core'));
const others = all.filter((name) => !desk.includes(name) && !core.includes(name));

/** The core with what of it the tests reach; what stands on databases is most of the time, and is not slowed down by counting. */
const unitCore = () =>
	step('unit: the core, with its coverage', node, [
		...[bin('c8', 'bin/c8.js'), '--include', 'src/lib/core/**', '--reporter', 'text'],
		...mocha,
		...core
	]);
const unitDesk = () => step('unit: the desk', node, [...mocha, ...desk]);
const unitOthers = () => step('unit: all the rest', node, [...mocha, ...others]);

/** Two processors, about as much for each: reading the code and the core; the desk and the rest, which stand on databases. */
async function readingAndUnits() {
	const [first, second] = await Promise.all([
		reading().then(async (read) => [...read, counted(await unitCore())]),
		unitDesk().then(async (ran) => [counted(ran), counted(await unitOthers())])
	]);
	return [...first, ...second];
}

/**
 * End to end in three lanes, each with a stack on ports of its own: a test waits for a courier or a
 * browser much of its time. Named here are two lanes of about a third of the time; the last has all the rest.
 */
const namedLanes = [
	['1-trip', '4-screens', 'reach', 'when', 'sizes', 'z-crawl'],
	[
		...['2-courier', 'boards', 'feeds', 'first-start', 'joining', 'note', 'silent', 'x-expect'],
		...['y-answers-killed', 'y-copies-killed']
	]
].map((names) => names.map((name) => `${name}.test.ts`));
const lanes = [
	...namedLanes,
	readdirSync('test/e2e').filter(
		(name) => name.endsWith('.test.ts') && !namedLanes.flat().includes(name)
	)
];
const endToEnd = async () =>
	(
		await Promise.all(
			lanes.map((files, i) =>
				step(
					`end to end, lane ${i + 1} of ${lanes.length}`,
					node,
					[
						bin('mocha', 'bin/mocha.js'),
						'--config',
						'test/e2e/mocharc.json',
						...files.map((name) => `test/e2e/${name}`)
					],
					// One of them can be read as it runs.
					{ atOnce: i === 0 }
				)
			)
		)
	).map(counted);

/** With mail servers of Debian's at the other end, where a network of their own can be made for them. */
function realServers() {
	process.stdout.write('\n== with real mail servers\n');
	const ran = withMailServers();
	process.stdout.write(ran.why ? `Skipped: ${ran.why}.\n` : ran.output);
	return ran.why ? [] : [counted({ name: 'with real mail servers', ...ran })];
}

/** `npm test -- e2e` runs the end-to-end tests alone; the other parts likewise. */
const parts = { units: readingAndUnits, mail: realServers, e2e: endToEnd };
const asked = process.argv.slice(2);
const unknown = asked.filter((name) => !(name in parts));
if (unknown.length > 0) {
	process.stderr.write(
		`The tests have no ${unknown.join(', ')}. They have ${Object.keys(parts).join(', ')}.\n`
	);
	process.exit(1);
}

install();
installChromium();
build();
spawnSync(node, [bin('@sveltejs/kit', 'svelte-kit.js'), 'sync'], { cwd: root, stdio: 'ignore' });

const results = [];
for (const [name, part] of Object.entries(parts))
	if (asked.length === 0 || asked.includes(name)) results.push(...(await part()));
const passed = results.reduce((sum, r) => sum + r.passed, 0);
const failed = results.reduce((sum, r) => sum + r.failed, 0);
// What ran side by side is long past by now: the end alone is what somebody reads of a long run.
if (failed > 0) process.stdout.write(`\n== what failed\n${results.map((r) => r.said).join('')}`);
process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exit(failed === 0 ? 0 : 1);
