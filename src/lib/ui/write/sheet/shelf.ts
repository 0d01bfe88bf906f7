import { openDB, type IDBPDatabase } from 'idb';
import { draftMark } from './draft-mark';
import type { Draft } from '../../../server/desk/sheet/types';

/** What the browser's database holds of one sheet. */
interface Row {
	readonly key: string;
	readonly userId: number;
	readonly sheet: KeptSheet;
}

const databaseName = 'idle-courier';
const storeName = 'sheets';

let database: Promise<IDBPDatabase> | null = null;
const openDatabase = (): Promise<IDBPDatabase> =>
	(database ??= openDB(databaseName, 1, {
		upgrade: (db) => void db.createObjectStore(storeName, { keyPath: 'key' })
	}));

/**
 * Where the sheets of one person lie in this browser, each in a place of its own by its key, so that
 * opening one never writes over another. Each is kept twice: at once where a reload finds it, and in
 * the browser's database, whose writes are on the disk when they are done; what is killed right after
 * a key comes back from there. A browser that allows neither keeps nothing; sheets work all the same.
 */
export class Shelf {
	readonly #prefix: string;
	/** Keys of sheets that were taken off and whose row in the database may still be there: a page left at once cuts that off. */
	readonly #gonePlace: string;
	/** The newest version of each sheet that waits to be written. */
	readonly #waiting = new Map<string, KeptSheet | null>();
	#writing = false;

	constructor(readonly userId: number) {
		this.#prefix = `idle-courier/sheet/${userId}/`;
		this.#gonePlace = `idle-courier/gone/${userId}`;
	}

	/**
	 * Takes in what only the database still has, and a sheet that was kept in the one place of earlier. A
	 * window that was killed leaves its last sheet there alone: then that is the one to go on with.
	 */
	async recover(): Promise<void> {
		this.#takeFormer();
		try {
			const db = await openDatabase();
			const rows = (await db.getAll(storeName)) as Row[];
			const gone = this.#gone();
			let newest = this.list()[0]?.keptAt ?? 0;
			for (const { key, userId, sheet } of rows) {
				if (userId !== this.userId) continue;
				// Kept again after it was taken off, it is there.
				if ((gone.get(key) ?? -Infinity) >= (sheet.keptAt ?? 0)) continue;
				gone.delete(key);
				const here = this.get(sheet.sheetKey);
				if (here && (here.keptAt ?? 0) >= (sheet.keptAt ?? 0)) continue;
				this.#put(sheet);
				if ((sheet.keptAt ?? 0) <= newest) continue;
				newest = sheet.keptAt ?? 0;
				this.current = sheet.sheetKey;
			}
			for (const key of gone.keys()) this.#waiting.set(key, null);
			void this.#write();
		} catch {
			// Private windows and full stores refuse.
		}
	}

	#takeFormer(): void {
		const place = `idle-courier/sheet/${this.userId}`;
		try {
			const former = readSheet(localStorage.getItem(place));
			localStorage.removeItem(place);
			if (!former || this.get(former.sheetKey)) return;
			this.#put(former);
			this.current ??= former.sheetKey;
		} catch {
			// As above.
		}
	}

	get(sheetKey: string): KeptSheet | null {
		try {
			return readSheet(localStorage.getItem(this.#prefix + sheetKey));
		} catch {
			return null;
		}
	}

	/** Every sheet on it, the newest first. */
	list(): KeptSheet[] {
		const sheets: KeptSheet[] = [];
		try {
			for (let i = 0; i < localStorage.length; i += 1) {
				const key = localStorage.key(i);
				if (!key?.startsWith(this.#prefix)) continue;
				const sheet = readSheet(localStorage.getItem(key));
				if (sheet) sheets.push(sheet);
			}
		} catch {
			// As above.
		}
		return sheets.sort((a, b) => (b.keptAt ?? 0) - (a.keptAt ?? 0));
	}

	/** Those with something in them that the server does not have. */
	unsaved(): KeptSheet[] {
		return this.list().filter(isUnsaved);
	}

	/** The sheet that this window works on, or else the last one that any did. */
	get current(): string | null {
		try {
			return (
				sessionStorage.getItem(`${this.#prefix}current`) ??
				localStorage.getItem(`idle-courier/current/${this.userId}`)
			);
		} catch {
			return null;
		}
	}
	set current(sheetKey: string | null) {
		try {
			if (sheetKey === null) {
				sessionStorage.removeItem(`${this.#prefix}current`);
				localStorage.removeItem(`idle-courier/current/${this.userId}`);
				return;
			}
			sessionStorage.setItem(`${this.#prefix}current`, sheetKey);
			localStorage.setItem(`idle-courier/current/${this.userId}`, sheetKey);
		} catch {
			// As above.
		}
	}

	keep(sheet: KeptSheet): void {
		this.#put(sheet);
		this.#setGone(sheet.sheetKey, null);
		this.#waiting.set(sheet.sheetKey, sheet);
		void this.#write();
	}

	forget(sheetKey: string): void {
		try {
			localStorage.removeItem(this.#prefix + sheetKey);
		} catch {
			// As above.
		}
		this.#setGone(sheetKey, Date.now());
		this.#waiting.set(sheetKey, null);
		void this.#write();
	}

	/** When each was taken off (ms), by its key. */
	#gone(): Map<string, number> {
		try {
			const gone: unknown = JSON.parse(localStorage.getItem(this.#gonePlace) ?? '{}');
			return new Map(Object.entries(gone ?? {}).map(([key, at]) => [key, Number(at)]));
		} catch {
			return new Map();
		}
	}
	#setGone(sheetKey: string, at: number | null): void {
		const gone = this.#gone();
		if (at === null && !gone.delete(sheetKey)) return;
		if (at !== null) gone.set(sheetKey, at);
		try {
			localStorage.setItem(this.#gonePlace, JSON.stringify(Object.fromEntries(gone)));
		} catch {
			// As above.
		}
	}

	/** Takes a sheet off that the server has as it is. */
	tidy(sheetKey: string): void {
		const sheet = this.get(sheetKey);
		if (sheet && !isUnsaved(sheet)) this.forget(sheetKey);
	}

	#put(sheet: KeptSheet): void {
		try {
			localStorage.setItem(this.#prefix + sheet.sheetKey, JSON.stringify(sheet));
		} catch {
			// As above.
		}
	}

	/** One write at a time; of several versions of a sheet only the newest is written. */
	async #write(): Promise<void> {
		if (this.#writing) return;
		this.#writing = true;
		try {
			const db = await openDatabase();
			while (this.#waiting.size > 0) {
				const batch = [...this.#waiting];
				this.#waiting.clear();
				const tx = db.transaction(storeName, 'readwrite', { durability: 'strict' });
				for (const [key, sheet] of batch) {
					if (sheet === null) void tx.store.delete(key);
					else void tx.store.put({ key, userId: this.userId, sheet } satisfies Row);
				}
				await tx.done;
				for (const [key, sheet] of batch) {
					if (sheet === null && !this.#waiting.has(key)) this.#setGone(key, null);
				}
			}
		} catch {
			// As above.
		} finally {
			this.#writing = false;
		}
	}
}

/** Whether a sheet holds what the server does not have. */
const isUnsaved = (sheet: KeptSheet): boolean => sheet.savedMark !== draftMark(sheet);

/** A sheet as it was kept, if it can still be read. One in an older form is not. */
function readSheet(text: string | null): KeptSheet | null {
	try {
		const data = JSON.parse(text ?? 'null') as KeptSheet | null;
		return data?.audience?.version === 2 &&
			data.wording &&
			data.letter &&
			data.board &&
			data.timing &&
			data.turns
			? data
			: null;
	} catch {
		return null;
	}
}

/** A sheet as the browser keeps it, with the version on the server that it was made from. */
export type KeptSheet = Draft & {
	readonly savedAt: number | null;
	/** Marks of the versions that were sent last, answered or not. */
	readonly sent?: readonly string[];
	/** Mark of the version that the server has; missing while it has none. */
	readonly savedMark?: string;
	/** When it was kept, by the browser's clock (ms): of two versions the later counts. */
	readonly keptAt?: number;
};
