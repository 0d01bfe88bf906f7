import { z } from 'zod';
import { checkMailAddress, mailKey } from '../../../core/format/mail-address';
import { fitted, type Said } from '../../../core/talk/invitation';
import { readJoiner } from '../../../core/talk/joiner';
import { guestToken, invitationToken, rowOfToken, sameSecret } from '../../access/tokens';
import { now } from '../../clock';
import { comingGuest, invitationLink, type ComingGuestRow } from '../../db/models/coming';
import type { Db, Query } from '../../db/open';
import { askedBy, type Asked } from '../sheet/asked';
import { answer } from './answer';
import { invitationFor, type FormSaid } from './own-invitation';
import { tellGuest } from './tell';
import type { Answered, NotAnswered, OwnInvitation } from './types';

const hourMs = 3_600_000;
/** How long the letter that asks whether it was they can be answered. */
const askedMs = 7 * 24 * hourMs;
/** Letters of one invitation in an hour, and to one address in a day over all: whoever types strangers' addresses fills no mailbox. */
const mostLetters = { invitation: 300, address: 5 } as const;

/** What was said that holds once the guest has confirmed it. */
const wantedSchema = z.object({
	comes: z.boolean(),
	people: z.number().int(),
	students: z.number().int().nullable(),
	slot: z.number().int()
});

/** What a link for anybody opens: an invitation that is open to them; null where it is none, or was ended. */
export async function openInvitation(db: Query, key: Buffer, token: string): Promise<Asked | null> {
	const id = rowOfToken(token);
	const link = id === null ? undefined : await db.rows(invitationLink).one({ dispatchId: id });
	if (!link || link.endedAt !== null) return null;
	if (!sameSecret(token, invitationToken(key, { id: link.dispatchId, nonce: link.nonce })))
		return null;
	const asked = await askedBy(db, link.dispatchId);
	return asked?.id === link.dispatchId && asked.asking.anybody ? asked : null;
}

/** What somebody types who answers from outside. */
export interface GuestForm extends FormSaid {
	readonly name: string;
	readonly address: string;
	readonly language: string;
}

/** Why nothing was asked: what the form lacks, or that enough was asked for now. */
export type GuestFault = NotAnswered | 'no-name' | 'no-address' | 'wait';

/** Whether another letter may go to an address, and about an invitation. */
async function mayWrite(tx: Query, asked: Asked, address: string, at: number): Promise<boolean> {
	const { here, there } = (await tx.one<{ here: number; there: number }>(
		`SELECT (SELECT count(*) FROM auto_note JOIN coming_guest ON coming_guest.id = guest_id
				WHERE dispatch_id = $id AND auto_note.kind = 'coming-ask' AND made_at > $hour) AS here,
			(SELECT count(*) FROM auto_note WHERE auto_note.kind = 'coming-ask' AND address = $address COLLATE NOCASE AND made_at > $day) AS there`,
		{ id: asked.id, address, hour: at - hourMs, day: at - 24 * hourMs }
	))!;
	return here < mostLetters.invitation && there < mostLetters.address;
}

/**
 * Somebody says by the link for anybody that they come: a letter to their address asks whether it was they. Nothing holds
 * before that, and the answer here is the same whoever reads at the address.
 */
export async function askGuest(
	db: Db,
	key: Buffer,
	token: string,
	form: GuestForm
): Promise<
	{ readonly ok: true; readonly to: string } | { readonly ok: false; readonly why: GuestFault }
> {
	const no = (why: GuestFault) => ({ ok: false, why }) as const;
	const name = readJoiner(form.name);
	const mail = checkMailAddress(form.address);
	return db.write(async (tx) => {
		const asked = await openInvitation(tx, key, token);
		if (!asked) return no('gone');
		if (!asked.open) return no('closed');
		if (name === null || name.student !== '') return no('no-name');
		if (!mail.ok) return no('no-address');
		const fits = fitted(asked.asking, form);
		if (!fits.ok) return no(fits.why);
		const at = Math.round(await now(tx));
		if (!(await mayWrite(tx, asked, mail.value, at))) return no('wait');
		await tellGuest(
			tx,
			await putGuest(tx, asked, { ...form, name: name.name, address: mail.value }, fits.said, at),
			'coming-ask',
			at
		);
		return { ok: true, to: mail.value };
	});
}

/** The row of a guest at an address: one that is confirmed keeps its name until its owner says otherwise. */
async function putGuest(
	tx: Query,
	asked: Asked,
	{ name, address, language }: GuestForm,
	said: Said,
	at: number
): Promise<number> {
	const addressKey = mailKey(address);
	const before = await tx.rows(comingGuest).one({ dispatchId: asked.id, addressKey });
	const values = { language, askedAt: at, wanted: JSON.stringify(said) };
	if (before) {
		await tx
			.rows(comingGuest)
			.change(
				{ id: before.id },
				before.confirmedAt === null ? { ...values, name } : { askedAt: at }
			);
		return before.id;
	}
	return tx.rows(comingGuest).add({
		...{ dispatchId: asked.id, name, address, addressKey, ...values },
		confirmedAt: null
	});
}

/** Whoever holds the link in the letter, and how their answer stands. */
export interface OwnGuest {
	readonly guest: ComingGuestRow;
	readonly asked: Asked;
	readonly invitation: OwnInvitation;
	/** What they said before they confirmed it. */
	readonly wanted: Said;
	/** Whether the letter can still be answered. */
	readonly fresh: boolean;
}

/** What the link in a guest's letter opens; null where it is none of ours. */
export async function openGuest(db: Query, key: Buffer, token: string): Promise<OwnGuest | null> {
	const id = rowOfToken(token);
	const guest = id === null ? undefined : await db.rows(comingGuest).one({ id });
	if (!guest || !sameSecret(token, guestToken(key, guest))) return null;
	const asked = await askedBy(db, guest.dispatchId);
	if (!asked) return null;
	return {
		...{ guest, asked },
		invitation: await invitationFor(db, asked, { kind: 'guest', id: guest.id }, null),
		wanted: wantedSchema.parse(JSON.parse(guest.wanted)),
		fresh: guest.confirmedAt !== null || (await now(db)) <= guest.askedAt + askedMs
	};
}

/** Whoever holds the link says that it was they, or something else than before: only then do they have places. */
export async function answerAsGuest(
	db: Db,
	key: Buffer,
	token: string,
	form: FormSaid | null
): Promise<Answered> {
	return db.write(async (tx): Promise<Answered> => {
		const own = await openGuest(tx, key, token);
		if (!own) return { ok: false, why: 'gone' };
		if (!own.fresh) return { ok: false, why: 'closed' };
		const { guest, asked, wanted } = own;
		// Who has confirmed comes, and may say otherwise, also when nobody else can any more.
		if (guest.confirmedAt === null && !asked.asking.anybody) return { ok: false, why: 'gone' };
		const fits = form
			? fitted(asked.asking, form)
			: // The invitation may have changed since: what was said has to fit it still.
				fitted(asked.asking, {
					comes: wanted.comes,
					adults: wanted.people - (wanted.students ?? 0),
					students: wanted.students,
					slot: wanted.slot
				});
		if (!fits.ok) return fits;
		const done = await answer(tx, asked, { kind: 'guest', id: guest.id }, fits.said, {
			personId: null,
			how: 'open'
		});
		if (done.ok && guest.confirmedAt === null)
			await tx
				.rows(comingGuest)
				.change({ id: guest.id }, { confirmedAt: Math.round(await now(tx)) });
		return done;
	});
}
