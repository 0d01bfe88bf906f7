import { randomUUID } from 'node:crypto';
import { now } from '../src/lib/server/clock';
import type { Db, Query } from '../src/lib/server/db/open';

/** A courier that has not beaten for so long is taken for dead, ms of the machine's time. */
const deadAfterMs = 8_000;

const alive = (pid: number): boolean => {
	try {
		process.kill(pid, 0);
		return true;
	} catch (error) {
		return (error as NodeJS.ErrnoException).code === 'EPERM';
	}
};

/**
 * Which courier may send. There is one row for it; a second courier started by mistake stands by
 * until the first is gone. Every claim checks in its own transaction that the row still names this
 * courier, so that one that was taken for dead and wakes up again sends nothing more.
 */
export interface Identity {
	readonly instance: string;
	/** Tries to become the courier, or shows that it still is. Takes over the claims of the one before. */
	beat(): Promise<boolean>;
	/** Whether this is the courier, inside the transaction of a claim. */
	holds(tx: Query): Promise<boolean>;
	/** Steps down, so that another need not wait. */
	leave(): Promise<void>;
}

export function identity(db: Db): Identity {
	const instance = randomUUID();
	return {
		instance,
		beat: () =>
			db.write(async (tx) => {
				const row = await tx.one<{ instance: string; pid: number; beat_at: number }>(
					'SELECT instance, pid, beat_at FROM courier WHERE id = 1'
				);
				const at = Date.now();
				if (row && row.instance !== instance) {
					const gone = row.pid === 0 || row.pid === process.pid || !alive(row.pid);
					if (!gone && at - row.beat_at < deadAfterMs) return false;
				}
				if (row?.instance !== instance) {
					// Claims of a courier that is gone are open again. A copy it may have handed over just
					// before is sent with the same Message-ID or reference, by which a repeat is told; what had
					// no answer was no try.
					await tx.run(
						'UPDATE delivery SET claimed_by = NULL, attempts = max(0, attempts - 1) WHERE claimed_by IS NOT NULL'
					);
				}
				await tx.run(
					`INSERT INTO courier (id, instance, pid, beat_at, job_at, started_at) VALUES (1, $instance, $pid, $at, $jobAt, $at)
					ON CONFLICT (id) DO UPDATE SET started_at = CASE WHEN instance = $instance THEN started_at ELSE $at END,
						instance = $instance, pid = $pid, beat_at = $at, job_at = $jobAt`,
					{ instance, pid: process.pid, at, jobAt: await now(tx) }
				);
				return true;
			}),
		holds: async (tx) =>
			(await tx.one('SELECT 1 FROM courier WHERE id = 1 AND instance = $instance', {
				instance
			})) !== undefined,
		leave: () =>
			db.run('UPDATE courier SET pid = 0, beat_at = 0 WHERE id = 1 AND instance = $instance', {
				instance
			})
	};
}
