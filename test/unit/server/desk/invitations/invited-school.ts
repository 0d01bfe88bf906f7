import { openLink } from '../../../../../src/lib/server/access/private-link';
import { copyToken } from '../../../../../src/lib/server/access/tokens';
import { now } from '../../../../../src/lib/server/clock';
import { rosterChanged } from '../../../../../src/lib/server/db/roster';
import {
	answerOnOwnPage,
	ownInvitation,
	type FormSaid
} from '../../../../../src/lib/server/desk/invitations/own-invitation';
import type { Answered } from '../../../../../src/lib/server/desk/invitations/types';
import type { Sheet } from '../../../../../src/lib/server/desk/sheet/sheet';
import type { Asking } from '../../../../../src/lib/core/talk/invitation-schema';
import { manyGuardians } from '../../database';
import { answeredSchool, type AnsweredSchool } from '../replies/answered-school';

export const key = Buffer.alloc(32, 7);
export const hourMs = 3_600_000;
const visitor = {
	...{ method: 'POST', agent: 'Mozilla/5.0 Firefox/140.0', purpose: '', key: 'phone' }
};

/** The small school whose families live in two households: Delfina (10) and Paulo (11) in one, Bao (12) in the other. */
export interface InvitedSchool extends AnsweredSchool {
	/** Sends an invitation that can be answered for a day. */
	invite(asks?: Partial<Asking>, over?: Partial<Sheet> & { subject?: string }): Promise<number>;
	/** What somebody says on their page, by the link of a copy of theirs. */
	says(personId: number, dispatchId: number, said: Partial<FormSaid>): Promise<Answered>;
	sees(personId: number, dispatchId: number): ReturnType<typeof ownInvitation>;
}

export async function invitedSchool(families = 0): Promise<InvitedSchool> {
	const school = await answeredSchool();
	const { db } = school;
	await db.write(async (tx) => {
		await tx.run(`INSERT INTO household (id, name, since) VALUES (1, 'Amaro', 0), (2, 'Pham', 0)`);
		await tx.run(
			`INSERT INTO household_member (household_id, person_id) VALUES (1, 1), (1, 2), (1, 10), (1, 11), (2, 3), (2, 12)`
		);
		if (families > 0) await manyGuardians(tx, families);
		await rosterChanged(tx);
	});
	const invite: InvitedSchool['invite'] = async (asks = {}, over = {}) =>
		school.send({
			subject: 'Concert',
			invitation: {
				...{ kind: 'asks', until: (await now(db)) + 24 * hourMs, places: null, slots: [] },
				...{ most: 10, anybody: false, ...asks }
			},
			...over
		});
	return {
		...school,
		invite,
		async says(personId, dispatchId, said) {
			const copy = await db.one<{ nonce: string }>(
				`SELECT nonce FROM delivery WHERE dispatch_id = $dispatchId AND link_hash IS NOT NULL AND (person_id = $personId
					OR id IN (SELECT delivery_id FROM delivery_also WHERE person_id = $personId)) ORDER BY id LIMIT 1`,
				{ dispatchId, personId }
			);
			const opened = await openLink(db, copyToken(key, copy!.nonce));
			if (!opened.ok) throw new Error('the link opens nothing');
			return answerOnOwnPage(
				db,
				{ ...opened, personId },
				dispatchId,
				{ comes: true, adults: 1, students: 0, slot: null, ...said },
				visitor
			);
		},
		sees: (personId, dispatchId) => ownInvitation(db, personId, dispatchId)
	};
}
