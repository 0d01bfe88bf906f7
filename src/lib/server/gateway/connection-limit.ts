import type { SmtpError } from './smtp-reply';

/** After a server allowed fewer, how long until one more is tried, ms. */
const againMs = 600_000;

/** The parts of nodemailer's pool that are used here beyond its types. */
export interface ConnectionPool {
	options: { maxConnections: number };
	_connections: readonly unknown[];
	close(options?: { force?: boolean }): void;
}

/** How many connections a mail server allows, learned from its refusals. */
interface ConnectionLimit {
	/** Whether a refusal was one of a further connection, while others are there; then there are fewer from now on. */
	refusedOne(error: SmtpError): boolean;
	/** What was too much a while ago may be allowed again. */
	tryMore(): void;
	/** What there is to say; null where it allows as many as wanted. */
	remark(): string | null;
}

/** Keeps a pool to what its mail server allows, and to `wanted` at most. */
export function connectionLimit(pool: ConnectionPool, wanted: number): ConnectionLimit {
	let most = wanted;
	let loweredAt = 0;
	const allow = (n: number) => {
		most = n;
		pool.options.maxConnections = n;
		loweredAt = performance.now();
	};
	return {
		refusedOne(error) {
			const others = pool._connections.length;
			const refused =
				error.responseCode === 421 || error.code === 'EPROTOCOL' || error.code === 'ECONNECTION';
			if (!refused || others < 1) return false;
			if (most > 1) allow(Math.max(1, Math.min(most - 1, others)));
			return true;
		},
		tryMore() {
			if (most < wanted && performance.now() - loweredAt > againMs) allow(most + 1);
		},
		remark: () =>
			most < wanted
				? `it takes ${most === 1 ? 'one connection' : `${most} connections`} at a time, so letters leave more slowly`
				: null
	};
}
