import { openDatabase, type Db } from './db/open';
import { migrate } from './db/migrate';
import { linkKey } from './access/link-key';
import { readProviders, type Providers } from './providers';
import { readSettings, type Settings } from './settings';

/** What every route stands on: settings, database, link key. Opened once for the process. */
export interface Services {
	readonly settings: Settings;
	readonly db: Db;
	readonly key: Buffer;
}

let opened: Promise<Services> | undefined;

/** Opens the services at first use, `as` the process that asks first. A failure is not kept, so that the next request tries again. */
export function services(as = 'the web server'): Promise<Services> {
	opened ??= (async () => {
		const settings = readSettings();
		const db = await openDatabase(settings.databaseFile, { as });
		await migrate(db);
		return { settings, db, key: await linkKey(settings.dataFolder, db) };
	})();
	opened.catch(() => (opened = undefined));
	return opened;
}

/** Where we are, and whom we speak to, as it stands now. */
export async function outside(): Promise<Providers & Pick<Settings, 'publicUrl'>> {
	const { db, key, settings } = await services();
	return { publicUrl: settings.publicUrl, ...(await readProviders(db, key, settings)) };
}
