/** Runs what is measured in processes of their own. */
import { spawnSync } from 'node:child_process';
import { root } from '../../demo/prepare.mjs';

const flags = {
	'plan.ts': ['--max-semi-space-size=64'],
	'roster.ts': ['--max-semi-space-size=32', '--max-old-space-size=1000']
};

/** Runs a TypeScript file of the bench and gives what it prints last, as JSON; ends the bench where it fails. */
export function measure(file, ...args) {
	const { status, stdout, stderr } = spawnSync(
		process.execPath,
		[
			// As the application runs them.
			...(flags[file] ?? []),
			...['--import', 'tsx', `test/bench/${file}`, ...args.map(String)]
		],
		{ cwd: root, encoding: 'utf8', maxBuffer: 1 << 26 }
	);
	if (status !== 0) {
		process.stderr.write(stderr);
		process.exit(1);
	}
	return JSON.parse(stdout.trim().split('\n').at(-1));
}
