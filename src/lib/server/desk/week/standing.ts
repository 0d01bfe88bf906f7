import { z } from 'zod';
import { isAllowed, may } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import type { StandingRow } from '../../db/models/dispatch';
import type { FeedRow } from '../../db/models/feed';
import type { Db, Query } from '../../db/open';
import { linesOf } from './dispatch-lines';
import type { StandingLine, StandingView } from './types';

const expectedSchema = z.object({ students: z.number(), copies: z.number() });

const columns = `standing.id, subject, marker.name AS marker, marker_id AS markerId, audience_words AS words,
	standing.ends_at AS endsAt, standing.made_by AS madeBy, standing.made_at AS madeAt, ended_at AS endedAt, waits,
	expected, hold_minutes AS holdMinutes, given_name || ' ' || family_name AS sender,
	address, title, next_at AS nextAt, failing_since AS failingSince,
	(SELECT coalesce(sum(entries), 0) FROM feed_look WHERE standing_id = standing.id) AS entries,
	(SELECT count(dispatch_id) FROM gained WHERE standing_id = standing.id) AS students,
	(SELECT count(*) FROM gained WHERE standing_id = standing.id AND done_at IS NULL) AS held`;
const joined = `standing JOIN person ON person.id = standing.made_by LEFT JOIN marker ON marker.id = marker_id
	LEFT JOIN feed ON feed.standing_id = standing.id`;

/** Not ended, and not past its end: its last date may wait for an answer, or for a feed that cannot be read. */
const goesOn = `ended_at IS NULL AND (standing.ends_at > $now OR waits IS NOT NULL OR next_at IS NOT NULL)`;

type Row = Omit<StandingLine, 'mayEnd' | 'expected' | 'waitsFor'> &
	Pick<StandingRow, 'madeBy' | 'markerId'> &
	Pick<FeedRow, 'address' | 'title' | 'nextAt' | 'failingSince'> & {
		readonly expected: string;
		readonly marker: string | null;
		readonly entries: number;
	};

function lineOf(user: User, row: Row): StandingLine {
	const { madeBy, expected, marker, markerId, address, title, nextAt, failingSince, ...line } = row;
	const { entries, ...rest } = line;
	return {
		...rest,
		waitsFor:
			markerId === null
				? { kind: 'feed', address, title, nextAt, failingSince, entries }
				: { kind: 'marker', id: markerId, name: marker ?? '' },
		expected: expectedSchema.parse(JSON.parse(expected)),
		mayEnd: may(user, 'handle', madeBy)
	};
}

/** The sheets that wait for a marker or a feed now, of those a user handles; those to end first on top. */
export async function standingLines(db: Query, user: User): Promise<StandingLine[]> {
	const rows = await db.all<Row>(
		`SELECT ${columns} FROM ${joined} WHERE ${goesOn}
		ORDER BY standing.ends_at, standing.id LIMIT 200`,
		{ now: await now(db) }
	);
	return rows.map((row) => lineOf(user, row)).filter((line) => line.mayEnd);
}

/** A sheet that waits for a marker or a feed, with what has left of it; null where the user does not handle it. */
export async function standingView(db: Db, user: User, id: number): Promise<StandingView | null> {
	const row = await db.one<Row>(`SELECT ${columns} FROM ${joined} WHERE standing.id = $id`, { id });
	if (!row || !isAllowed(user, 'handle', row.madeBy)) return null;
	const sent = await db.all<{ id: number }>(
		`SELECT dispatch_id AS id FROM gained WHERE standing_id = $id AND dispatch_id IS NOT NULL
		UNION SELECT dispatch_id FROM feed_look WHERE standing_id = $id AND dispatch_id IS NOT NULL
		ORDER BY 1 DESC LIMIT 500`,
		{ id }
	);
	return {
		...lineOf(user, row),
		now: await now(db),
		sent: await linesOf(
			db,
			user,
			sent.map((s) => s.id)
		),
		looks: await db.all(
			`SELECT id, at, outcome, entries, why, dispatch_id AS dispatchId FROM feed_look
			WHERE standing_id = $id ORDER BY at DESC, id DESC LIMIT 100`,
			{ id }
		),
		nothing: await db.all(
			`SELECT student_id AS studentId, given_name || ' ' || family_name AS name, why FROM gained
			JOIN person ON person.id = student_id
			WHERE standing_id = $id AND why IS NOT NULL AND why != 'not in its audience'
			ORDER BY family_name, given_name LIMIT 500`,
			{ id }
		)
	};
}
