import { LRUCache } from 'lru-cache';
import pLimit from 'p-limit';
import type { Database, Statement } from 'sqlite3';

/** Values that can be bound to a statement. Lists go in as one JSON text and are unfolded by json_each. */
export type Bind = Record<string, string | number | null>;

/** Statements kept for each connection. There are some hundreds in all; one that is asked for seldom is read anew. */
const mostKept = 300;

/** What is bound stays with a statement until it is used again: one that was given more letters than this is not kept. */
const mostBound = 100_000;

/** A statement that the engine has read, with the names it binds. */
interface Prepared {
	readonly statement: Statement;
	readonly names: readonly string[];
}

/** SQL of our own on one connection. */
export interface Statements {
	/** Runs a statement and gives its rows. */
	all<T extends object>(sql: string, bind: Bind): Promise<T[]>;
	/** Runs a text of several statements, which the engine goes through without hearing from here; it gives no rows. */
	script(sql: string): Promise<void>;
	/** Lets go of what is kept: a connection that is to be closed must have none. */
	forget(): Promise<void>;
}

const lettersIn = (bound: Bind): number =>
	Object.values(bound).reduce<number>(
		(sum, value) => sum + (typeof value === 'string' ? value.length : 0),
		0
	);

/**
 * Runs SQL of our own on a connection of Sequelize's by statements that the engine has read once and that are kept: reading
 * them anew and handing them through Sequelize cost five times what a short one takes to run. So many at once and no more:
 * the engine runs them one after another anyway, and each that waits inside of it holds a thread of the pool; but where
 * none waits there, each begins only when the main thread has heard of the one before, which on a busy machine takes longer than the
 * statement.
 */
export function statementsOn(connection: Database, atOnce: number): Statements {
	const beingRead = new Map<string, Promise<Prepared>>();
	const kept = new LRUCache<string, Prepared>({
		max: mostKept,
		dispose: ({ statement }) => void statement.finalize()
	});
	const prepare = (sql: string): Promise<Prepared> =>
		new Promise((done, failed) => {
			const statement = connection.prepare(sql, (error: Error | null) => {
				if (error) return failed(error);
				const names = new Set([...sql.matchAll(/\B\$(\w+)/g)].map(([, name]) => name!));
				const prepared = { statement, names: [...names] };
				kept.set(sql, prepared);
				done(prepared);
			});
		});
	const boundTo = ({ names }: Prepared, bind: Bind): Bind => {
		const bound: Bind = {};
		for (const name of names) {
			const value = bind[name];
			if (value === undefined) throw new Error(`a statement is given no $${name}`);
			bound[`$${name}`] = value;
		}
		return bound;
	};
	const inTurn = pLimit(atOnce);
	const ofText = (sql: string): Prepared | Promise<Prepared> => {
		const there = kept.get(sql) ?? beingRead.get(sql);
		if (there) return there;
		const reading = prepare(sql).finally(() => beingRead.delete(sql));
		beingRead.set(sql, reading);
		return reading;
	};
	const all = async <T extends object>(sql: string, bind: Bind): Promise<T[]> => {
		const there = ofText(sql);
		// Nothing may come between a statement that is kept and its use: it could be let go of.
		const prepared = there instanceof Promise ? await there : there;
		const bound = boundTo(prepared, bind);
		try {
			return await new Promise<T[]>((done, failed) =>
				// Also of what gives no rows: it has come to its end then, and holds nothing.
				prepared.statement.all<T>(bound, (error, rows) => (error ? failed(error) : done(rows)))
			);
		} finally {
			if (lettersIn(bound) > mostBound) kept.delete(sql);
		}
	};
	const underWay = new Set<Promise<unknown>>();
	const inTurnOf = <T>(work: () => Promise<T>): Promise<T> => {
		const mine = inTurn(work);
		underWay.add(mine);
		const over = () => void underWay.delete(mine);
		mine.then(over, over);
		return mine;
	};
	return {
		all: <T extends object>(sql: string, bind: Bind) => inTurnOf(() => all<T>(sql, bind)),
		script: (sql) =>
			inTurnOf(
				() =>
					new Promise((done, failed) =>
						connection.exec(sql, (error: Error | null) => (error ? failed(error) : done()))
					)
			),
		async forget() {
			while (underWay.size > 0) await Promise.allSettled(underWay);
			kept.clear();
		}
	};
}
