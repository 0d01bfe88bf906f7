import { placeLocal } from '../../../core/time/local';
import { timingSchema } from '../../../core/time/timing';
import { zoneOf } from '../../../core/time/clocks';
import { readClocks } from '../../db/school-own';
import { overAt } from '../../../core/track/over';
import { may, scope } from '../../access/may';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import { coverageBy } from '../track/coverage';
import type { DispatchLine } from './types';
import type { Way } from '../../../core/roster/way';
import { touched } from '../../db/copy-state';

interface LineRow {
	id: number;
	subject: string;
	sender: string;
	state: DispatchLine['state'];
	ways: string;
	leavesAt: number | null;
	endsAt: number | null;
	sentAt: number | null;
	changedAt: number;
	copies: number;
	audience: string;
	senderId: number;
	gone: number;
	expected: string;
	timing: string;
	waits: string | null;
	roundId: number | null;
}

/** Dispatches a user may see, newest first, that left or will leave in a half-open interval of instants. */
export async function dispatchLines(
	db: Db,
	user: User,
	interval: { from: number; to: number },
	limit = 200
): Promise<DispatchLine[]> {
	const condition = scope(user).dispatches;
	const rows = await db.all<LineRow>(
		`${lineSelect} WHERE state != 'draft' AND leaves_at >= $from AND leaves_at < $to AND ${condition.sql}
		ORDER BY leaves_at DESC, dispatch.id DESC LIMIT $limit`,
		{ ...interval, limit, ...condition.bind }
	);
	return withCoverage(db, user, rows);
}

/** A user's drafts, newest first. */
export async function draftLines(db: Db, user: User): Promise<DispatchLine[]> {
	const rows = await db.all<LineRow>(
		`${lineSelect} WHERE state = 'draft' AND sender_id = $user ORDER BY changed_at DESC, dispatch.id DESC LIMIT 50`,
		{ user: user.personId }
	);
	return withCoverage(db, user, rows);
}

/** A user's own scheduled dispatches that wait for an answer. */
export async function waitingLines(db: Db, user: User): Promise<DispatchLine[]> {
	const rows = await db.all<LineRow>(
		`${lineSelect} WHERE state = 'scheduled' AND waits IS NOT NULL AND sender_id = $user ORDER BY leaves_at, dispatch.id LIMIT 50`,
		{ user: user.personId }
	);
	return withCoverage(db, user, rows);
}

/** Lines of some dispatches a user may see, in the order of `ids`. */
export async function linesOf(db: Db, user: User, ids: readonly number[]): Promise<DispatchLine[]> {
	const condition = scope(user).dispatches;
	const rows = await db.all<LineRow>(
		`${lineSelect} WHERE dispatch.id IN (SELECT value FROM json_each($ids)) AND ${condition.sql}`,
		{ ids: JSON.stringify(ids), ...condition.bind }
	);
	const byId = new Map(rows.map((r) => [r.id, r]));
	return withCoverage(
		db,
		user,
		ids.flatMap((id) => byId.get(id) ?? [])
	);
}

const lineSelect = `SELECT dispatch.id, subject, given_name || ' ' || family_name AS sender, state, ways,
	leaves_at AS leavesAt, ends_at AS endsAt, sent_at AS sentAt, changed_at AS changedAt, audience_words AS audience,
	sender_id AS senderId, expected, timing, waits, round_id AS roundId,
	(SELECT count(*) FROM delivery WHERE dispatch_id = dispatch.id) AS copies,
	(SELECT count(*) FROM delivery WHERE dispatch_id = dispatch.id
		AND ${touched}) AS gone
	FROM dispatch JOIN person ON person.id = sender_id`;

async function withCoverage(db: Db, user: User, rows: LineRow[]): Promise<DispatchLine[]> {
	const coverages = await coverageBy(
		db,
		rows.map((r) => r.id)
	);
	const clocks = await readClocks(db);
	return rows.map((row) => {
		const coverage = coverages.get(row.id)!;
		const { expected, timing, senderId, endsAt, sentAt, ...line } = row;
		const { gone } = line;
		const byWay = JSON.parse(expected) as DispatchLine['byWay'];
		const about = row.state === 'scheduled' && row.copies === 0;
		const { when, clock } = timingSchema.parse(JSON.parse(timing));
		return {
			...line,
			overAt: overAt({ state: row.state, endsAt, sentAt }),
			byWay,
			about,
			copies: about ? Object.values(byWay).reduce((sum, n) => sum + n, 0) : row.copies,
			clockZone: zoneOf(clocks, clock),
			intendedAt:
				row.state === 'draft' && when.kind === 'at'
					? placeLocal(when.at, zoneOf(clocks, clock)).at
					: null,
			movable:
				row.state !== 'sent' && gone === 0 && when.kind === 'at' && may(user, 'handle', senderId),
			unit: coverage.unit,
			ways: JSON.parse(row.ways) as Way[],
			students: coverage.students,
			covered: coverage.covered,
			unreachable: coverage.unreachable
		};
	});
}
