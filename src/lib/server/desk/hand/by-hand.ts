import { worksHere } from '../../access/accounts';
import { writeDown, type Deed } from '../../access/log';
import { isAllowed, scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { personChange } from '../../db/models/rosters';
import type { NewRow } from '../../db/models/table';
import type { Db, Query } from '../../db/open';
import { ownChanged, rosterChanged } from '../../db/roster';
import type { Said } from '../../said';
import { stopWhatIsNotTheirs, type LostTie } from '../roster/not-theirs';

/** One change of a person, as it is written down: an old value beside a new one. */
type Line = Pick<NewRow<typeof personChange>, 'personId' | 'field'> &
	Partial<Pick<NewRow<typeof personChange>, 'aboutId' | 'before' | 'after'>>;

/** What somebody does to people by hand, in one transaction. */
export interface Hand {
	readonly tx: Query;
	readonly user: User;
	/** When it is done, ms. */
	readonly at: number;
	/** Writes a change down. */
	wrote(line: Line): void;
	/** Nothing but what is this person's own has changed: addresses, consent. */
	own(personId: number): void;
	/** Somebody is no longer to be written to about a student: copies that wait are taken out. */
	lost(tie: LostTie): void;
	/** Somebody is no longer at the schools. */
	left(personId: number): void;
	/** Something was done that is no change of a person. */
	did(deed: Omit<Deed, 'by'>): void;
}

/**
 * The one door for what is changed of people by hand: whoever does it is asked for their right, each
 * change is written down with their name, what waits for people who are no longer to be written to is
 * taken out in the same transaction, and whoever holds the roster in memory is told. Work that answers
 * `ok: false` must have changed nothing.
 */
export async function byHand<T>(
	db: Db,
	user: User,
	work: (hand: Hand) => Promise<Said<T>>
): Promise<Said<T>> {
	if (!isAllowed(user, 'correct-people'))
		return { ok: false, why: 'The school office looks after people: ask them to change it.' };
	return db.write(async (tx): Promise<Said<T>> => {
		const at = Math.round(await now(tx));
		const lines: Line[] = [];
		const own: number[] = [];
		const lost: LostTie[] = [];
		const gone: number[] = [];
		const deeds: Deed[] = [];
		const done = await work({
			tx,
			user,
			at,
			wrote: (line) => void lines.push(line),
			own: (personId) => void own.push(personId),
			lost: (tie) => void lost.push(tie),
			left: (personId) => void gone.push(personId),
			did: (deed) => void deeds.push({ ...deed, by: user })
		});
		if (!done.ok) return done;
		await writeDown(tx, ...deeds, ...changesDone(user, lines));
		if (lines.length === 0) return done;
		await tx.rows(personChange).addMany(
			lines.map(({ aboutId = null, before = null, after = null, ...line }) => ({
				...{ at, byId: user.personId, aboutId, before, after },
				...line
			}))
		);
		if (lost.length + gone.length > 0) await stopWhatIsNotTheirs(tx, { lost, gone });
		const onlyOwn = own.length > 0 && lines.every((line) => own.includes(line.personId));
		if (onlyOwn) await ownChanged(tx, own);
		else await rosterChanged(tx);
		return done;
	});
}

/** What was changed of each person, by the names of what it was: the values stand in the person's own log, where they can be erased. */
function changesDone(user: User, lines: readonly Line[]): Deed[] {
	const fields = new Map<number, Set<string>>();
	for (const { personId, field } of lines)
		fields.set(personId, (fields.get(personId) ?? new Set()).add(field));
	return [...fields].map(([personId, of]) => ({
		...{ act: 'person-changed', by: user, to: ['person', personId] },
		after: { fields: [...of] }
	}));
}

/** A yes or no as it is written down. */
export const yesOrNo = (value: number | null): string | null =>
	value === null ? null : value === 1 ? 'yes' : 'no';

export const notTheirs = {
	ok: false,
	why: 'There is no such person, or another office looks after them. Load the page again.'
} as const;

/** Somebody on file. */
interface OnFile {
	readonly id: number;
	readonly kind: 'student' | 'adult';
	readonly goneAt: number | null;
	/** They sign in here, or are to. */
	readonly works: boolean;
}

/** A person whom the user looks after; null where there is none. */
export async function personSeen({ tx, user }: Hand, id: number): Promise<OnFile | null> {
	const seen = scope(user).people('person.id', 'look-after');
	const row = await tx.one<Omit<OnFile, 'works'> & { works: number }>(
		`SELECT id, kind, gone_at AS goneAt, id IN (${worksHere}) AS works
		FROM person WHERE id = $id AND ${seen.sql}`,
		{ id, ...seen.bind }
	);
	return row ? { ...row, works: row.works === 1 } : null;
}

/**
 * A person whom the user may change; null where there is none. Whoever signs in here is changed by the
 * district office alone: an address of theirs is a way into what they may do.
 */
export async function personOfMine(hand: Hand, id: number): Promise<OnFile | null> {
	const found = await personSeen(hand, id);
	return found?.works && !isAllowed(hand.user, 'speak-for-district') ? null : found;
}
