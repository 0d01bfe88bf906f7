import { resolve } from 'node:path';
import { readSettings } from '../src/lib/server/settings';
import { backUp } from './backup';

/** `npm run backup`, or `npm run backup -- /some/where.zip`: takes a backup while everything runs. */
async function main(): Promise<void> {
	const { dataFolder } = readSettings();
	const stamp = new Date().toISOString().slice(0, 19).replace(/[:]/g, '');
	const into = resolve(process.argv[2] ?? `backups/${stamp}.zip`);
	const { archive, bytes, databaseBytes, files, logBytes, ms } = await backUp(dataFolder, into);
	process.stdout.write(
		`Backed up to ${archive}, ${(bytes / 1e6).toFixed(1)} MB, opened and compared: a database of ${(databaseBytes / 1e6).toFixed(1)} MB, the link key and ${files} ${files === 1 ? 'file' : 'files'}, in ${(ms / 1000).toFixed(1)} s. The log holds ${(logBytes / 1e6).toFixed(1)} MB now.\n`
	);
}

main().catch((error: Error) => {
	process.stderr.write(`No backup was taken: ${error.message}\n`);
	process.exit(1);
});
