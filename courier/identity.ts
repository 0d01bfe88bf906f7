import { randomUUID } from 'node:crypto';
import { readFileSync, readlinkSync } from 'node:fs';
import { z } from 'zod';
import { now } from '../src/lib/server/clock';
import { makeMark, type Mark } from '../src/lib/server/db/mark';
import type { Deed } from '../src/lib/server/db/at-once';
import type { Db, Query } from '../src/lib/server/db/open';

/** A courier whose beats were not seen to go on for so long is taken for dead, ms by the watcher's own steady clock. */
const deadAfterMs = 10_000;

/** Where a process runs, as far as another one on the same machine can check it. Empty where the system says nothing. */
const placeSchema = z.object({
	/** Of the machine's start, and of the space in which process numbers count: two containers both have a process 1. */
	boot: z.string(),
	space: z.string(),
	pid: z.number().int(),
	/** When it began, in ticks since the machine's start: numbers of processes come again. */
	began: z.string()
});
export type RunsIn = z.infer<typeof placeSchema>;

const beganOf = (pid: number | 'self'): string =>
	// The name in brackets may hold anything; what follows its end is parted by single spaces (proc(5)).
	readFileSync(`/proc/${pid}/stat`, 'utf8')
		.replace(/^.*\)\s/s, '')
		.split(' ')[19]!;

function whereIRun(): RunsIn | null {
	try {
		return {
			boot: readFileSync('/proc/sys/kernel/random/boot_id', 'utf8').trim(),
			space: readlinkSync('/proc/self/ns/pid'),
			pid: process.pid,
			began: beganOf('self')
		};
	} catch {
		return null;
	}
}

/** Whether a process is gone for certain: it ran where we can see, and is not there any more. */
function isGone(place: string, mine: RunsIn | null): boolean {
	if (!mine || place === '') return false;
	const other = placeSchema.safeParse(JSON.parse(place));
	if (!other.success || other.data.boot !== mine.boot || other.data.space !== mine.space)
		return false;
	try {
		return beganOf(other.data.pid) !== other.data.began;
	} catch {
		return true;
	}
}

/**
 * Which courier may send. There is one row for it; each that comes into office has the next fence, a
 * number that its claims carry, and counts its beats there. Another one stands by until the first has
 * left, is gone for certain, or its beats have not gone on for a while: seen with the watcher's own
 * steady clock, so that no change of the machine's time makes two of them. Every claim checks in its own transaction
 * that the row still has this courier's fence: one that was taken for dead and wakes up again sends
 * nothing more.
 */
export interface Identity {
	readonly instance: string;
	/** The number that claims carry; 0 before it was ever in office. */
	readonly fence: number;
	readonly mark: Mark;
	/** Tries to come into office, or shows that it lives. Takes over the claims of the one before. */
	beat(): Promise<boolean>;
	/** Whether copies may leave by this courier, inside the transaction of a claim: it is in office, and nobody has to look at the database first. */
	holds(tx: Query): Promise<boolean>;
	/** What {@link Identity.holds} asks, as a condition. */
	office(): Deed;
	/** Steps down, so that another need not wait. */
	leave(): Promise<void>;
}

interface Row {
	readonly instance: string;
	readonly fence: number;
	readonly beats: number;
	readonly runs_in: string;
	readonly pid: number;
}

const readOffice = (q: Query) =>
	q.one<Row>('SELECT instance, fence, beats, runs_in, pid FROM courier WHERE id = 1');

/** What tells one beat from another. */
const beatOf = (row: Row | undefined) => (row ? `${row.fence} ${row.beats}` : '');

/** Who comes into office, after whom. */
interface Comer {
	readonly before: Row | undefined;
	readonly fence: number;
	readonly instance: string;
	readonly place: RunsIn | null;
}

/** Writes a courier into office; false where somebody else came first, or the one before lives after all. */
const takeOffice = (db: Db, { before, fence, instance, place }: Comer): Promise<boolean> =>
	db.write(async (tx) => {
		if (beatOf(await readOffice(tx)) !== beatOf(before)) return false;
		// Claims of a courier that is gone are open again. A copy it may have handed over just
		// before is sent with the same Message-ID or reference, by which a repeat is told; what had
		// no answer was no try.
		await tx.run(
			'UPDATE delivery SET claimed_by = NULL, attempts = max(0, attempts - 1) WHERE claimed_by IS NOT NULL'
		);
		await tx.run(
			`INSERT INTO courier (id, instance, fence, beats, runs_in, pid, beat_at, job_at, started_at)
			VALUES (1, $instance, $fence, 0, $place, $pid, $at, $jobAt, $at)
			ON CONFLICT (id) DO UPDATE SET instance = excluded.instance, fence = excluded.fence, beats = 0,
				runs_in = excluded.runs_in, pid = excluded.pid, beat_at = excluded.beat_at,
				job_at = excluded.job_at, started_at = excluded.started_at`,
			{
				instance,
				fence,
				place: place ? JSON.stringify(place) : '',
				pid: process.pid,
				at: Date.now(),
				jobAt: await now(tx)
			}
		);
		return true;
	});

/** How a courier comes into office: where it runs, and by which clock it watches another. */
interface IdentityOptions {
	readonly place?: RunsIn | null;
	/** A clock that never goes back, ms. */
	readonly steady?: () => number;
	/** How long beats may stand still, ms. */
	readonly deadMs?: number;
}

/** Makes a courier's identity; it is not in office yet. */
export function identity(
	db: Db,
	{
		place = whereIRun(),
		steady = () => performance.now(),
		deadMs = deadAfterMs
	}: IdentityOptions = {}
): Identity {
	const instance = randomUUID();
	const mark = makeMark(db);
	let fence = 0;
	let held = false;
	let seen: { readonly beat: string; readonly at: number } | null = null;

	/** Whether the office is free for the taking. */
	function free(row: Row | undefined): boolean {
		if (!row || row.pid === 0 || isGone(row.runs_in, place)) return true;
		const beat = beatOf(row);
		if (seen?.beat !== beat) {
			seen = { beat, at: steady() };
			return false;
		}
		return steady() - seen.at >= deadMs;
	}

	const comeIn = async (before: Row | undefined): Promise<boolean> => {
		const mine = (before?.fence ?? 0) + 1;
		if (!(await takeOffice(db, { before, fence: mine, instance, place }))) return false;
		fence = mine;
		return true;
	};

	const office = (): Deed => ({
		sql: `EXISTS (SELECT 1 FROM courier, mark WHERE courier.id = 1 AND fence = $fence AND fence > 0
			AND instance = $instance AND held IS NULL)`,
		bind: { fence, instance }
	});

	return {
		instance,
		get fence() {
			return fence;
		},
		mark,
		async beat() {
			const row = await readOffice(db);
			if (fence > 0 && row?.fence === fence && row.instance === instance) {
				await db.run(
					`UPDATE courier SET beats = beats + 1, beat_at = $at, job_at = $at + (SELECT offset_ms FROM clock)
					WHERE id = 1 AND fence = $fence AND instance = $instance`,
					{ at: Date.now(), fence, instance }
				);
				// Once somebody has looked, the mark belongs to this database again.
				if (held) held = (await mark.look()) !== null;
				return true;
			}
			if (!free(row) || !(await comeIn(row))) return false;
			held = (await mark.look()) !== null;
			return true;
		},
		holds: async (tx) =>
			(await tx.one<{ holds: 0 | 1 }>(`SELECT ${office().sql} AS holds`, office().bind))!.holds ===
			1,
		office,
		leave: () =>
			db.run(
				'UPDATE courier SET pid = 0, beat_at = 0 WHERE id = 1 AND fence = $fence AND instance = $instance',
				{
					fence,
					instance
				}
			)
	};
}
