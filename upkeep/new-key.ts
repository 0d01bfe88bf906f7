import { existsSync, unlinkSync } from 'node:fs';
import { join } from 'node:path';
import { linkKey } from '../src/lib/server/access/link-key';
import { copyToken, hashToken, newNonces } from '../src/lib/server/access/tokens';
import { migrate } from '../src/lib/server/db/migrate';
import { openDatabase } from '../src/lib/server/db/open';
import { readSettings } from '../src/lib/server/settings';
import { waits } from '../src/lib/server/db/copy-state';

/**
 * `npm run new-key`: where the link key is lost for good. Says how many links end by it; with `-- --yes` it ends them,
 * and makes a new key; copies that have not left get links of it.
 */
async function main(): Promise<void> {
	const { dataFolder, databaseFile } = readSettings();
	if (!existsSync(databaseFile)) throw new Error(`There is no database at ${databaseFile}.`);
	const db = await openDatabase(databaseFile);
	await migrate(db);
	const count = async (sql: string) =>
		(await db.one<{ n: number }>(`SELECT count(*) AS n FROM ${sql}`))!.n;
	const unsent = await count(`delivery WHERE ${waits} AND link_hash IS NOT NULL`);
	const sent = (await count('delivery WHERE link_hash IS NOT NULL')) - unsent;
	const own = await count('family_link');
	const factors = await count('second_factor');
	const say = (line: string) => process.stdout.write(`${line}\n`);
	say(
		`${sent} links in letters and texts that were sent, and ${own} personal links, would lead nowhere; ${factors} second factors would end, and their owners set them up anew.`
	);
	if (process.argv[2] !== '--yes') {
		say('Nothing was changed. To go on: npm run new-key -- --yes');
	} else {
		const file = join(dataFolder, 'link.key');
		const waiting = await db.all<{ id: number }>(
			`SELECT id FROM delivery WHERE ${waits} AND link_hash IS NOT NULL`
		);
		// Every value is new, so that nobody who finds the old key again makes an address that is believed.
		await db.write(async (tx) => {
			await tx.run('UPDATE delivery SET link_hash = NULL, nonce = lower(hex(randomblob(16)))');
			await tx.run('DELETE FROM family_link');
			// Their secrets are sealed under the key that is gone.
			for (const table of ['second_factor', 'recovery_code']) await tx.run(`DELETE FROM ${table}`);
			await tx.run('UPDATE account_link SET ends_at = made_at WHERE used_at IS NULL');
		});
		if (existsSync(file)) unlinkSync(file);
		const key = await linkKey(dataFolder, db);
		await db.write(async (tx) => {
			const nonces = newNonces(waiting.length);
			await tx.run(
				`UPDATE delivery SET nonce = new.nonce, link_hash = new.hash FROM (SELECT value ->> 0 AS id,
					value ->> 1 AS nonce, value ->> 2 AS hash FROM json_each($rows)) AS new WHERE delivery.id = new.id`,
				{
					rows: JSON.stringify(
						waiting.map(({ id }, i) => [id, nonces[i], hashToken(copyToken(key, nonces[i]!))])
					)
				}
			);
		});
		say('Done: there is a new key. Copies that have not left yet have links of it.');
	}
	await db.close();
}

main().catch((error: Error) => {
	process.stderr.write(`${error.message}\n`);
	process.exit(1);
});
