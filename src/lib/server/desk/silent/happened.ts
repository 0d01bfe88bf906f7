import { onlyStands } from '../../db/copy-state';
import { readMany } from '../../db/many';
import type { Query } from '../../db/open';

/** A stretch of time: instants in ms, without its first and with its last. */
export interface Stretch {
	readonly since: number;
	readonly until: number;
}

/** What is said of somebody's copies in a stretch. */
interface Copies {
	readonly left: number;
	readonly arrived: number;
}

/** What happened in a stretch of time, by the rows of what was sent. */
export interface Happened {
	readonly dispatches: number;
	/** Students something was meant for. */
	readonly students: ReadonlySet<number>;
	/** Adults who read, answered, or said whether they come. */
	readonly reached: ReadonlySet<number>;
	/** Households that said whether they come. */
	readonly reachedHomes: ReadonlySet<number>;
	/** Copies that left for people, those at an address they share with others too. */
	readonly copies: ReadonlyMap<number, Copies>;
}

// What only stands on boards is sent to nobody: who has not opened a board is not out of reach.
const left = `dispatch.kind != 'answer' AND dispatch.state IN ('scheduled', 'sent') AND NOT ${onlyStands}
	AND leaves_at > $since AND leaves_at <= $until`;
/** The dispatches that left in a stretch. */
export const inStretch = `(SELECT id FROM dispatch WHERE ${left})`;

const idsOf = async (db: Query, sql: string, stretch: Stretch): Promise<number[]> =>
	readMany(db, 'id', `FROM (${sql})`, ([id]) => id as number, { ...stretch });

/** What happened in a stretch of time. */
export async function happenedIn(db: Query, stretch: Stretch): Promise<Happened> {
	const dispatches = (await db.one<{ n: number }>(`SELECT count(*) AS n FROM ${inStretch}`, {
		...stretch
	}))!.n;
	const students = await idsOf(
		db,
		`SELECT DISTINCT student_id AS id FROM dispatch_student WHERE dispatch_id IN ${inStretch}`,
		stretch
	);
	// What left before may have been read in it: asked by when it was read, not by when it left.
	const reached = await idsOf(
		db,
		`SELECT person_id AS id FROM delivery WHERE read_at > $since AND read_at <= $until
		UNION SELECT delivery_also.person_id FROM delivery_also JOIN delivery ON delivery.id = delivery_id
			WHERE read_at > $since AND read_at <= $until
		UNION SELECT person_id FROM board_read WHERE at > $since AND at <= $until
		UNION SELECT conversation.person_id FROM answer JOIN conversation ON conversation.id = conversation_id
			WHERE answer.at > $since AND answer.at <= $until AND conversation.person_id IS NOT NULL
		UNION SELECT person_id FROM coming WHERE at > $since AND at <= $until AND person_id IS NOT NULL`,
		stretch
	);
	const reachedHomes = await idsOf(
		db,
		`SELECT DISTINCT household_id AS id FROM coming_said JOIN coming ON coming.id = coming_id
		WHERE coming_said.at > $since AND coming_said.at <= $until AND coming_said.how != 'moved-up' AND household_id IS NOT NULL`,
		stretch
	);
	const copies = await readMany(
		db,
		'person, copies, arrived',
		`FROM (SELECT person, count(*) AS copies, sum(state != 'failed') AS arrived FROM (
			SELECT person_id AS person, delivery.state, delivery.left_at FROM delivery WHERE dispatch_id IN ${inStretch}
			UNION ALL SELECT delivery_also.person_id, delivery.state, delivery.left_at FROM delivery_also
				JOIN delivery ON delivery.id = delivery_id WHERE dispatch_id IN ${inStretch})
			WHERE left_at IS NOT NULL AND left_at <= $until GROUP BY person)`,
		([person, count, arrived]): [number, Copies] => [
			person as number,
			{ left: count as number, arrived: arrived as number }
		],
		{ ...stretch }
	);
	return {
		...{ dispatches, students: new Set(students), reached: new Set(reached) },
		...{ reachedHomes: new Set(reachedHomes), copies: new Map(copies) }
	};
}
