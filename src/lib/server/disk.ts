import { statfs } from 'node:fs/promises';

/** Room below which the database can hardly grow any more, octets. */
const littleRoom = 50_000_000;

/** How full the disk of the data folder is. */
export interface DiskRoom {
	readonly freeMegabytes: number;
	readonly full: boolean;
}

/** Looks how much room there is for the data. Null where the system does not say. */
export async function diskRoom(dataFolder: string): Promise<DiskRoom | null> {
	try {
		const { bavail, bsize } = await statfs(dataFolder);
		const free = bavail * bsize;
		return { freeMegabytes: Math.floor(free / 1_000_000), full: free < littleRoom };
	} catch {
		return null;
	}
}

/** Whether something failed for want of room: SQLite and the file system say it in their ways, and across threads only their words are left. */
export const isDiskFull = (error: unknown): boolean =>
	/SQLITE_FULL|database or disk is full|ENOSPC/.test(
		`${(error as Error)?.message ?? ''} ${(error as { code?: string })?.code ?? ''} ${
			(error as { original?: { code?: string } })?.original?.code ?? ''
		}`
	);
