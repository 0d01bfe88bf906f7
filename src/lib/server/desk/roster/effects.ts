import { audienceSchema, isPeopleLine, type Audience } from '../../../core/audience/audience';
import type { Facts } from '../../../core/audience/facts';
import { resolveAudience } from '../../../core/audience/resolve';
import { nameOf } from '../../../core/roster/relation';
import { makeRoster, type Roster } from '../../../core/roster/roster';
import { whereOf } from '../../access/rights';
import { userById, type User } from '../../access/user';
import type { DispatchRow, KeptAudienceRow } from '../../db/models/dispatch';
import type { Db } from '../../db/open';
import { readRoster, readRosterRows } from '../../db/roster';
import { permitted } from '../audience/permitted';
import { rowsAfter } from './rows-after';
import type { EffectSeen } from './types';
import type { Work } from './work';

/** More than these are not looked at: what leaves first comes first. */
const mostDispatches = 60;
const mostKept = 60;
/** So many names of each side. */
const mostNames = 50;

/** The students whom a user may write to in one state of the roster; null for all of them. */
function studentsOf(roster: Roster, user: User): number[] | null {
	const { whole, schools, sections, own } = whereOf(user, 'write');
	if (whole) return null;
	return [
		...schools.flatMap((id) => [...roster.studentsOfSchool(id)]),
		...[...sections, ...(own ? roster.sectionsTaughtBy(user.personId) : [])].flatMap((id) => [
			...roster.studentsIn(id)
		])
	];
}

/** The people an audience means, cut down to the students that its sender may write to. */
function peopleOf(
	roster: Roster,
	user: User,
	audience: Audience,
	facts: Facts
): ReadonlySet<number> {
	const allowed = studentsOf(roster, user);
	const shown: Audience =
		allowed === null
			? audience
			: {
					...audience,
					lines: audience.lines.map((line) =>
						isPeopleLine(line)
							? line
							: { ...line, of: { kind: 'all', of: [line.of, { kind: 'students', ids: allowed }] } }
					)
				};
	return new Set(resolveAudience(roster, shown, facts).meant.map((m) => m.personId));
}

/** What work on the roster does to whatever is scheduled or kept: who comes in and who leaves, by name. */
export async function effectsOf(db: Db, work: Work): Promise<EffectSeen[]> {
	const dispatches = await db.all<
		Pick<DispatchRow, 'id' | 'subject' | 'audience' | 'senderId' | 'chases'> & {
			leavesAt: number;
		}
	>(
		`SELECT id, subject, audience, sender_id AS senderId, chases, leaves_at AS leavesAt FROM dispatch
		WHERE state = 'scheduled' AND settled = 0 ORDER BY leaves_at LIMIT ${mostDispatches}`
	);
	const kept = await db.all<Pick<KeptAudienceRow, 'id' | 'name' | 'audience' | 'madeBy'>>(
		`SELECT id, name, audience, made_by AS madeBy FROM kept_audience
		WHERE gone_at IS NULL AND form = 'rule' ORDER BY used_at DESC LIMIT ${mostKept}`
	);
	if (dispatches.length + kept.length === 0) return [];
	const before = await readRoster(db);
	const after = makeRoster(rowsAfter(await readRosterRows(db), work));
	const users = new Map<number, User | null>();
	const userOf = async (id: number) => {
		if (!users.has(id)) users.set(id, await userById(db, id));
		return users.get(id)!;
	};
	const effects: EffectSeen[] = [];
	const look = async (
		of: Pick<EffectSeen, 'kind' | 'id' | 'name' | 'leavesAt'>,
		userId: number,
		stored: string,
		chases: number | null
	) => {
		const user = await userOf(userId);
		const audience = audienceSchema.safeParse(JSON.parse(stored));
		if (!user || !audience.success) return;
		const { spoken, facts } = await permitted(db, user, audience.data, chases);
		const was = peopleOf(before, user, spoken, facts);
		const will = peopleOf(after, user, spoken, facts);
		const ins = [...will].filter((id) => !was.has(id));
		const outs = [...was].filter((id) => !will.has(id));
		if (ins.length + outs.length === 0) return;
		effects.push({
			...of,
			inCount: ins.length,
			outCount: outs.length,
			ins: ins.slice(0, mostNames).map((id) => nameOf(after, id)),
			outs: outs.slice(0, mostNames).map((id) => nameOf(before, id))
		});
	};
	for (const { id, subject, audience, senderId, chases, leavesAt } of dispatches)
		await look({ kind: 'dispatch', id, name: subject, leavesAt }, senderId, audience, chases);
	for (const { id, name, audience, madeBy } of kept)
		await look({ kind: 'kept', id, name, leavesAt: null }, madeBy, audience, null);
	return effects;
}
