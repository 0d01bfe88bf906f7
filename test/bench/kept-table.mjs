/** The table of `docs/BENCH.md`: a whole run fills it, a run of some parts writes theirs anew. */
import { existsSync, readFileSync } from 'node:fs';

const holding = { true: 'yes', false: 'no', null: '' };
const head = [
	'| part | work | found | wanted | holds | run |',
	'| --- | --- | --- | --- | --- | --- |'
];

/** The lines of a part that was run; `when` says on which day and of which commit. */
export const linesOf = (part, rows, when) =>
	rows.map(
		({ work, found, detail, wanted, holds }) =>
			`| ${part} | ${work} | ${found}${detail === '' ? '' : ` (${detail})`} | ${wanted} | ${holding[holds]} | ${when} |`
	);

/** A table of lines. */
export const tableOf = (lines) => [...head, ...lines].join('\n');

/** What a file holds of a part, as it was found when that was run last. */
function keptLines(file, part) {
	const text = existsSync(file) ? readFileSync(file, 'utf8') : '';
	return text
		.split('\n')
		.filter((line) => line.startsWith('| ') && line.split('|')[1].trim() === part);
}

/** The document with the parts that were run now, by name, and all others as they are in the file. */
export const documentOf = (file, parts, measured, machine) =>
	[
		'# The bench',
		`Printed by \`npm run bench\` on ${machine}. Ratios are against the baseline that each part names, measured in the same run; times are those that somebody waits. Each line says on which day, and of which commit, its part was run last, and how much of the processors others took meanwhile who run beside this machine: what they take makes times long and ratios uncertain.`,
		tableOf(Object.keys(parts).flatMap((part) => measured.get(part) ?? keptLines(file, part))),
		Object.entries(parts)
			.map(([part, { about }]) => `- **${part}**: ${about}`)
			.join('\n')
	].join('\n\n') + '\n';
