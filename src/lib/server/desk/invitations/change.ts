import { z } from 'zod';
import { fitted, mostTogether } from '../../../core/talk/invitation';
import type { Asking } from '../../../core/talk/invitation-schema';
import { isAllowed } from '../../access/may';
import { writeDown } from '../../access/log';
import type { User } from '../../access/user';
import { now } from '../../clock';
import type { Party } from '../../db/coming';
import { dispatch } from '../../db/models/dispatch';
import { comingGuest, invitationLink } from '../../db/models/coming';
import { newNonces } from '../../access/tokens';
import type { Db, Query } from '../../db/open';
import type { Asked } from '../sheet/asked';
import { answer, letComeIn } from './answer';
import type { FormSaid } from './own-invitation';
import { informedBy, partiesSql } from './parties';
import { askedSeen } from './reach';
import type { Changed } from './types';

const notYours: Changed = {
	ok: false,
	why: 'There is no such invitation of yours. Load the page again.'
};

/** The invitation for whoever may change it; null for anybody else. */
async function mine(db: Query, user: User, id: number): Promise<Asked | null> {
	const asked = await askedSeen(db, user, id);
	return asked && isAllowed(user, 'handle', asked.senderId) ? asked : null;
}

/** A number of places as a field holds it; an empty one is no limit. */
const limit = z.union([
	z.null(),
	z.literal('').transform(() => null),
	z.coerce.number().int().min(1).max(100_000)
]);

/** What of an invitation can be changed once it has left: its words stay, and so do the times that somebody chose. */
export const changeSchema = z.object({
	until: z.coerce.number().int().min(1),
	places: limit,
	most: z.coerce.number().int().min(1).max(mostTogether),
	slotPlaces: z.record(z.string(), limit)
});

/** Changes until when it can be answered, and how many places there are; whoever stands in line for what is new has it, and is told. Fewer places take nobody’s away. */
export async function changeInvitation(
	db: Db,
	user: User,
	id: number,
	{ until, places, most, slotPlaces }: z.infer<typeof changeSchema>
): Promise<Changed> {
	return db.write(async (tx): Promise<Changed> => {
		const asked = await mine(tx, user, id);
		if (!asked) return notYours;
		const asking: Asking = {
			...asked.asking,
			...{ until, places, most },
			slots: asked.asking.slots.map((s) => ({
				...s,
				places: slotPlaces[String(s.id)] === undefined ? s.places : slotPlaces[String(s.id)]!
			}))
		};
		if (JSON.stringify(asking) === JSON.stringify(asked.asking)) return { ok: true };
		await tx.rows(dispatch).change({ id: asked.id }, { invitation: JSON.stringify(asking) });
		const came = await letComeIn(tx, { ...asked, asking, until }, Math.round(await now(tx)));
		await writeDown(tx, {
			...{ act: 'invitation-changed', by: user, to: ['dispatch', asked.id] },
			schoolId: asked.schoolId,
			before: { until: asked.until, places: asked.asking.places },
			after: { until, places, came }
		});
		return { ok: true };
	});
}

/** In whose name a line of the list answers: a household or person that was asked, or a guest who has confirmed; null for anybody else. */
async function partyOfKey(db: Query, asked: Asked, key: string): Promise<Party | null> {
	const match = /^(household|person|guest) (\d{1,15})$/.exec(key);
	if (!match) return null;
	const party = { kind: match[1] as Party['kind'], id: Number(match[2]) };
	if (party.kind === 'guest') {
		const guest = await db.rows(comingGuest).one({ id: party.id, dispatchId: asked.id });
		return guest?.confirmedAt == null ? null : party;
	}
	const there = await db.one(
		`WITH ${partiesSql} SELECT 1 FROM party WHERE party = $party
		UNION SELECT 1 FROM coming WHERE dispatch_id = $dispatch AND (household_id = $party OR person_id = -$party)`,
		{
			...{ dispatch: asked.id, informed: await informedBy(db, asked) },
			party: party.kind === 'household' ? party.id : -party.id
		}
	);
	return there ? party : null;
}

/** Puts down what somebody said at the phone or at the door, also after its time. */
export async function putDown(
	db: Db,
	user: User,
	id: number,
	key: string,
	said: FormSaid
): Promise<Changed> {
	return db.write(async (tx): Promise<Changed> => {
		const asked = await mine(tx, user, id);
		const party = asked && (await partyOfKey(tx, asked, key));
		if (!asked || !party) return notYours;
		const fits = fitted(asked.asking, said);
		if (!fits.ok)
			return {
				ok: false,
				why: {
					'no-slot': 'Choose to which of the times they come.',
					'no-people': 'Say how many come.',
					'too-many': `${asked.asking.most} at most come together here. Change that first, or put fewer down.`
				}[fits.why]
			};
		const done = await answer(tx, asked, party, fits.said, {
			...{ personId: user.personId, how: 'staff', late: true }
		});
		if (!done.ok)
			return {
				ok: false,
				why: 'There are not as many places for that. They keep what they had; more places can be put in above.'
			};
		await writeDown(tx, {
			...{ act: 'coming-put-down', by: user, to: ['dispatch', asked.id] },
			schoolId: asked.schoolId,
			after: { [party.kind]: party.id, comes: said.comes, people: fits.said.people }
		});
		return { ok: true };
	});
}

/** Makes the link for anybody, or ends it: an ended one opens nothing any more, and a new one is another. */
export async function openToAnybody(
	db: Db,
	user: User,
	id: number,
	open: boolean
): Promise<Changed> {
	return db.write(async (tx): Promise<Changed> => {
		const asked = await mine(tx, user, id);
		if (!asked) return notYours;
		const link = await tx.rows(invitationLink).one({ dispatchId: asked.id });
		const isOpen = link !== undefined && link.endedAt === null && asked.asking.anybody;
		if (isOpen === open) return { ok: true };
		const time = Math.round(await now(tx));
		if (open) {
			const values = { nonce: newNonces(1)[0]!, endedAt: null };
			if (link) await tx.rows(invitationLink).change({ dispatchId: asked.id }, values);
			else await tx.rows(invitationLink).add({ dispatchId: asked.id, ...values });
		} else await tx.rows(invitationLink).change({ dispatchId: asked.id }, { endedAt: time });
		await tx
			.rows(dispatch)
			.change({ id: asked.id }, { invitation: JSON.stringify({ ...asked.asking, anybody: open }) });
		await writeDown(tx, {
			...{ act: 'invitation-opened', by: user, to: ['dispatch', asked.id] },
			schoolId: asked.schoolId,
			after: { open }
		});
		return { ok: true };
	});
}
