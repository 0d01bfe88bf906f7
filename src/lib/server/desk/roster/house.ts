import type { Db } from '../../db/open';

/** What rosters are read and put down with. */
export interface RosterHouse {
	readonly db: Db;
	readonly dataFolder: string;
	/** The link key: by it keys of ours are known again. */
	readonly key: Buffer;
}
