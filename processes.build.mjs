/** Bundles the processes beside the web server (courier, stand-ins, demo data) into build/processes; packages stay outside. With `--watch` again whenever a source changes. */
import { build, context } from 'esbuild';

const options = {
	entryPoints: {
		courier: 'courier/main.ts',
		'gateway-thread': 'courier/gateway-thread.ts',
		mailhouse: 'standin/mailhouse/main.ts',
		exchange: 'standin/exchange/main.ts',
		translator: 'standin/translator/main.ts',
		newsroom: 'standin/newsroom/main.ts',
		planner: 'src/lib/server/planner/worker.ts',
		reader: 'src/lib/server/reading/worker.ts',
		readers: 'standin/readers/main.ts',
		identity: 'standin/identity/main.ts',
		'demo-make': 'demo/make.ts',
		backup: 'upkeep/backup-main.ts',
		restore: 'upkeep/restore-main.ts',
		'check-log': 'upkeep/check-log-main.ts',
		'new-key': 'upkeep/new-key.ts'
	},
	outdir: 'build/processes',
	bundle: true,
	platform: 'node',
	target: 'node20',
	format: 'esm',
	packages: 'external',
	logLevel: 'warning'
};

if (process.argv.includes('--watch')) await (await context(options)).watch();
else await build(options);
