import type { Asks } from '../../../core/copy/asks';
import {
	invitationSchema,
	type Asking,
	type Invitation
} from '../../../core/talk/invitation-schema';
import { zoneOf } from '../../../core/time/clocks';
import { now } from '../../clock';
import type { DispatchRow } from '../../db/models/dispatch';
import type { Query } from '../../db/open';
import { readDistrict } from '../../db/district';
import { readClocks } from '../../db/school-own';

/** An invitation that has been sent, or waits to be. */
export interface Asked extends Pick<DispatchRow, 'id' | 'subject' | 'senderId' | 'schoolId'> {
	readonly asking: Asking;
	/** Until when it can be answered, ms; what says nothing of it can be no longer. */
	readonly until: number;
	/** Whether it can be answered now. */
	readonly open: boolean;
	/** The clock that its times are meant by. */
	readonly zone: string;
}

type Row = Pick<
	DispatchRow,
	'id' | 'subject' | 'senderId' | 'schoolId' | 'invitation' | 'state'
> & {
	readonly clock: number | null;
};

const rowOf = (db: Query, id: number): Promise<Row | undefined> =>
	db.one<Row>(
		`SELECT id, subject, sender_id AS senderId, school_id AS schoolId, invitation, state,
			json_extract(timing, '$.clock') AS clock FROM dispatch WHERE id = $id`,
		{ id }
	);

/** What a dispatch asks, be it itself or about an earlier one; null where it asks nothing, or is still a draft. */
export async function askedBy(db: Query, dispatchId: number): Promise<Asked | null> {
	let row = await rowOf(db, dispatchId);
	let invitation = row ? invitationSchema.parse(JSON.parse(row.invitation)) : null;
	if (invitation?.kind === 'about') {
		row = await rowOf(db, invitation.dispatchId);
		invitation = row ? invitationSchema.parse(JSON.parse(row.invitation)) : null;
	}
	if (!row || row.state === 'draft' || invitation?.kind !== 'asks') return null;
	const { id, subject, senderId, schoolId, clock } = row;
	const until = invitation.until ?? 0;
	return {
		...{ id, subject, senderId, schoolId, until, asking: invitation },
		open: (await now(db)) < until,
		zone: zoneOf(await readClocks(db), clock)
	};
}

/** The dispatches whose readers an invitation asks, in SQL: itself and those about it. `$dispatch` is its number. */
export const askingDispatches = `(SELECT id FROM dispatch WHERE id = $dispatch OR about_id = $dispatch)`;

/** What the copies of a sheet ask, by the clock that its times are meant by; null where they ask nothing. */
export async function asksOf(
	db: Query,
	invitation: Invitation,
	clock: number | null
): Promise<Asks | null> {
	if (invitation === null) return null;
	const asked =
		invitation.kind === 'about'
			? await askedBy(db, invitation.dispatchId)
			: {
					asking: invitation,
					until: invitation.until ?? 0,
					zone: zoneOf(await readClocks(db), clock)
				};
	if (!asked) return null;
	return {
		...{ until: asked.until, zone: asked.zone, style: (await readDistrict(db)).clock },
		byText: asked.asking.slots.length === 0
	};
}
