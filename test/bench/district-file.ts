/** Makes the large district in a file of its own and prints where, as one line of JSON. */
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { makeDistrict } from '../../demo/district';
import { putRows } from '../../demo/put-rows';
import { sizes } from '../../demo/sizes';
import { migrate } from '../../src/lib/server/db/migrate';
import { openDatabase } from '../../src/lib/server/db/open';
import { rosterChanged } from '../../src/lib/server/db/roster';

const file = join(mkdtempSync(join(tmpdir(), 'idle-courier-bench-')), 'courier.sqlite');
const db = await openDatabase(file, { durable: false });
await migrate(db);
await db.write(async (tx) => {
	await putRows(tx, makeDistrict(2027, sizes.district).rows);
	await rosterChanged(tx);
});
await db.close();
process.stdout.write(JSON.stringify({ file }));
process.exit(0);
