/**
 * `npm run bench`: what is measured is printed as ratios against a named bare baseline, measured in
 * the same run on the same machine. Nothing fails here for being slow; what is wanted stands beside.
 * `npm run bench -- planning reach` runs these parts alone; all of them are kept in `docs/BENCH.md`.
 */
import { writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { join } from 'node:path';
import { build, install, root, run } from '../../demo/prepare.mjs';
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
const holding = { true: 'yes', false: 'no', null: '' };

say('Making the large district: 40 schools, 25,000 students.');
const { file } = measure('district-file.ts');
const found = [];
for (const [name, { about, run: rowsOf }] of Object.entries(parts)) {
	if (asked.length > 0 && !asked.includes(name)) continue;
	say(`\n${about}`);
	const rows = rowsOf(file);
	for (const { work, found: what, detail, wanted } of rows)
		say(
			`  ${work}   ${what}${detail === '' ? '' : ` (${detail})`}${wanted === '' ? '' : `; wanted ${wanted}`}`
		);
	found.push({ name, about, rows });
}

const lines = [
	'| part | work | found | wanted | holds |',
	'| --- | --- | --- | --- | --- |',
	...found.flatMap(({ name, rows }) =>
		rows.map(
			({ work, found: what, detail, wanted, holds }) =>
				`| ${name} | ${work} | ${what}${detail === '' ? '' : ` (${detail})`} | ${wanted} | ${holding[holds]} |`
		)
	)
];
say(`\n${lines.join('\n')}`);
if (asked.length === 0) {
	const processors = cpus();
	writeFileSync(
		join(root, 'docs', 'BENCH.md'),
		`${[
			'# The bench',
			`Printed by \`npm run bench\` on ${new Date().toISOString().slice(0, 10)}, Node ${process.version}, ${processors.length} × ${processors[0]?.model ?? 'an unknown processor'}. Ratios are against the baseline that each part names, measured in the same run; times are those that somebody waits.`,
			lines.join('\n'),
			...found.map(({ name, about }) => `- **${name}**: ${about}`)
		].join('\n\n')}\n`
	);
	run(process.execPath, ['node_modules/prettier/bin/prettier.cjs', '--write', 'docs/BENCH.md']);
}
