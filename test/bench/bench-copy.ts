import { copyFileSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A folder of this process's own, gone when it ends. */
export function ownFolder(): string {
	const folder = mkdtempSync(join(tmpdir(), 'idle-courier-bench-'));
	process.on('exit', () => rmSync(folder, { recursive: true, force: true }));
	return folder;
}

/** A copy of the district's file to write into, so that the next part of the bench finds it as it was. */
export function ownCopy(file: string): string {
	const copy = join(ownFolder(), 'courier.sqlite');
	copyFileSync(file, copy);
	return copy;
}
