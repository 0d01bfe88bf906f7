import { appendFileSync, existsSync, mkdirSync, readFileSync } from 'node:fs';
import { dirname } from 'node:path';

/** A list that is also a file of JSON lines, so that a stand-in that is started again still has what it had. A line cut short by a kill is passed over. */
export interface Journal<T> {
	readonly rows: readonly T[];
	add(row: T): void;
}

export function journal<T>(file: string): Journal<T> {
	mkdirSync(dirname(file), { recursive: true });
	const rows: T[] = [];
	if (existsSync(file)) {
		for (const line of readFileSync(file, 'utf8').split('\n')) {
			try {
				if (line) rows.push(JSON.parse(line) as T);
			} catch {
				// The last line of a process that was killed while it wrote.
			}
		}
	}
	return {
		rows,
		add(row) {
			rows.push(row);
			appendFileSync(file, `${JSON.stringify(row)}\n`);
		}
	};
}
