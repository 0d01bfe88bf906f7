import type { Bonds } from '../../../core/track/expect/forecast';
import type { OwnHabit } from '../../../core/track/expect/own-habits';
import type { EachOne, Everybody } from '../../../core/track/expect/reading-model';
import { ways, type Way } from '../../../core/roster/way';
import { readMany } from '../../db/many';
import type { ReadingModelRow } from '../../db/models/expect';
import type { Query } from '../../db/open';
import { remembering } from '../../db/remember';

/** What is kept of a model has this form; another is learned again. */
export const formNow = 1;

/** What was learned last of how people read. */
export interface Learned {
	readonly id: number;
	/** When (instant, ms), and from how many people and copies. */
	readonly at: number;
	readonly people: number;
	readonly copies: number;
	readonly everybody: Everybody;
	readonly bonds: Bonds;
}

/** What was learned last; null where nothing has been yet, or by an older version of the product. */
export async function learnedLast(db: Query): Promise<Learned | null> {
	const row = await db.one<ReadingModelRow>(
		'SELECT * FROM reading_model WHERE form = $form AND done IS NULL ORDER BY id DESC LIMIT 1',
		{ form: formNow }
	);
	if (!row) return null;
	const { id, at, people, copies, everybody, bonds } = row;
	return {
		...{ id, at, people, copies },
		everybody: JSON.parse(everybody) as Everybody,
		bonds: JSON.parse(bonds) as Bonds
	};
}

const kept = remembering<EachOne>(1);

/** What each one does, as it was learned with a model. */
export const habitsKept = (db: Query, { id }: Pick<Learned, 'id'>): Promise<EachOne> =>
	kept.get(db, String(id), async () => {
		const each = Object.fromEntries(
			ways.map((way) => [way, new Map<number, OwnHabit>()])
		) as Record<Way, Map<number, OwnHabit>>;
		await readMany(
			db,
			'person_id, way, share, middle, weight, copies, read',
			'FROM habit',
			([personId, way, share, middle, weight, copies, read]) =>
				each[way as Way].set(
					personId as number,
					{
						share,
						middle,
						weight,
						copies,
						read
					} as OwnHabit
				)
		);
		return each;
	});
