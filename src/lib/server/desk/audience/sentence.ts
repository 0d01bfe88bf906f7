import type { Audience } from '../../../core/audience/audience';
import { readSentence } from '../../../core/audience/read-sentence';
import { NotFound } from '../../../core/audience/sentence-names';
import { audienceWords } from '../../../core/audience/sentence';
import { studentsAllowed } from '../../access/allowed';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { nameBook, nameFinder } from '../../db/names';
import type { Db } from '../../db/open';
import { markersOfUser } from './markers-seen';
import { permitted } from './permitted';
import type { SentenceRead } from './types';
import type { ContactRow } from '../../db/models/roster';

/** An audience in words, as far as the user may see it. */
export async function sentenceOf(db: Db, user: User, audience: Audience): Promise<string> {
	const { spoken } = await permitted(db, user, audience);
	return audienceWords(spoken, await nameBook(db, spoken));
}

/**
 * Reads a sentence that somebody wrote. Of the people by hand, those who stood there before keep
 * who did it and when; new ones are the writer's. Names a user may not know are not there for them.
 */
export async function audienceFrom(
	db: Db,
	user: User,
	text: string,
	before: Audience,
	at: number
): Promise<SentenceRead> {
	const mine = scope(user).dispatches;
	const own = scope(user).kept;
	const finder = await nameFinder(db, {
		dispatches: await db.all(
			`SELECT id, subject AS name FROM dispatch WHERE state != 'draft' AND ${mine.sql}`,
			mine.bind
		),
		lists: await db.all(
			`SELECT id, name FROM kept_audience WHERE form = 'list' AND gone_at IS NULL AND ${own.sql}`,
			own.bind
		),
		markers: await markersOfUser(db, user)
	});
	const people = await known(db, user);
	const read = readSentence(text, {
		...finder,
		find(kind, name, apart) {
			if (kind !== 'person' || people === null) return finder.find(kind, name, apart);
			// Whether somebody else has the name is not theirs to learn.
			const notTheirs = new NotFound(
				`There is no person "${name}" among your students and their families.`
			);
			let found: number;
			try {
				found = finder.find(kind, name, apart);
			} catch (error) {
				throw error instanceof NotFound ? notTheirs : error;
			}
			if (!people.has(found)) throw notTheirs;
			return found;
		}
	});
	if (!read.ok) return read;
	const hand = (personId: number, way: 'in' | 'out') =>
		before.byHand.find((h) => h.personId === personId && h.way === way) ?? {
			personId,
			way,
			by: user.name,
			at
		};
	return {
		ok: true,
		audience: {
			version: 2,
			lines: [...read.audience.lines],
			byHand: [
				...read.audience.handIn.map((id) => hand(id, 'in')),
				...read.audience.handOut.map((id) => hand(id, 'out'))
			]
		}
	};
}

/** The people a user may know by name, or null for everyone. */
async function known(db: Db, user: User): Promise<ReadonlySet<number> | null> {
	const students = await studentsAllowed(db, user);
	if (students === null) return null;
	const tied = await db.all<{ id: ContactRow['personId'] }>(
		`SELECT DISTINCT person_id AS id FROM contact_now AS contact
		WHERE student_id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(students) }
	);
	return new Set([...students, ...tied.map((t) => t.id)]);
}
