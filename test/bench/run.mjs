/**
 * `npm run bench`: what is measured is printed as ratios against a named bare baseline, measured in
 * the same run on the same machine. Nothing fails here for being slow; what is wanted stands beside.
 * `npm run bench -- planning reach` runs these parts alone. What was found is kept in `docs/BENCH.md`.
 */
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { join } from 'node:path';
import { build, install, root, run } from '../../demo/prepare.mjs';
import { documentOf, linesOf, tableOf } from './kept-table.mjs';
import { measure } from './measure.mjs';
import { parts } from './parts.mjs';

const asked = process.argv.slice(2);
const unknown = asked.filter((name) => !(name in parts));
if (unknown.length > 0) {
	process.stderr.write(
		`The bench has no ${unknown.join(', ')}. It has ${Object.keys(parts).join(', ')}.\n`
	);
	process.exit(1);
}
install();
build();

const say = (line = '') => process.stdout.write(`${line}\n`);
const commit = spawnSync('git', ['rev-parse', '--short', 'HEAD'], { cwd: root, encoding: 'utf8' });
const when = `${new Date().toISOString().slice(0, 10)}${commit.status === 0 ? `, ${commit.stdout.trim()}` : ''}`;

say('Making the large district: 40 schools, 25,000 students.');
const { file } = measure('district-file.ts');
/** What the processors did until now, in the order of proc(5): the eighth is what others took who run beside this machine. */
function spent() {
	const stat = existsSync('/proc/stat') ? readFileSync('/proc/stat', 'utf8') : 'cpu';
	return stat.split('\n')[0].trim().split(/\s+/).slice(1, 9).map(Number);
}
/** How much of the processors others took, in words; nothing where it was little. */
function takenSince(before) {
	const between = spent().map((n, i) => n - before[i]);
	const share = between.length === 0 ? 0 : between[7] / between.reduce((sum, n) => sum + n, 0);
	return share < 0.02 ? '' : `; ${(100 * share).toFixed(0)} % taken by others`;
}

/** The lines of each part that is run, by its name. */
const measured = new Map();
for (const [name, { about, run: rowsOf }] of Object.entries(parts)) {
	if (asked.length > 0 && !asked.includes(name)) continue;
	say(`\n${about}`);
	const before = spent();
	const rows = rowsOf(file);
	const taken = takenSince(before);
	for (const { work, found: what, detail, wanted } of rows)
		say(
			`  ${work}   ${what}${detail === '' ? '' : ` (${detail})`}${wanted === '' ? '' : `; wanted ${wanted}`}`
		);
	measured.set(name, linesOf(name, rows, `${when}${taken}`));
}

say(`\n${tableOf([...measured.values()].flat())}`);
const processors = cpus();
const kept = join(root, 'docs', 'BENCH.md');
writeFileSync(
	kept,
	documentOf(
		kept,
		parts,
		measured,
		`Node ${process.version}, ${processors.length} × ${processors[0]?.model ?? 'an unknown processor'}`
	)
);
run(process.execPath, ['node_modules/prettier/bin/prettier.cjs', '--write', 'docs/BENCH.md']);
