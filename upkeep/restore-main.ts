import { resolve } from 'node:path';
import { readSettings } from '../src/lib/server/settings';
import { restore } from './restore';

/** `npm run restore -- backups/2027-03-09T150000.zip`: puts a backup back into the data folder, which has to be empty; another is named after it. */
async function main(): Promise<void> {
	const [archive, folder] = process.argv.slice(2);
	if (!archive) throw new Error('Say which backup: npm run restore -- backups/….zip');
	const into = resolve(folder ?? readSettings().dataFolder);
	const { at, files } = await restore(resolve(archive), into);
	process.stdout.write(
		`The backup of ${at} lies in ${into}: the database, the link key and ${files} ${files === 1 ? 'file' : 'files'}. Nothing leaves from there until somebody of the district office has looked at “How the courier is” and said what happens with what is due.\n`
	);
}

main().catch((error: Error) => {
	process.stderr.write(`Nothing was put back: ${error.message}\n`);
	process.exit(1);
});
