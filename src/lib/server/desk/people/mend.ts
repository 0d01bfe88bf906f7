import { worksHere } from '../../access/accounts';
import { writeDown } from '../../access/log';
import { address, mended } from '../../db/models/roster';
import { z } from 'zod';
import { isAllowed, scope } from '../../access/may';
import type { User } from '../../access/user';
import { addressText } from '../../../core/roster/address-text';
import { now } from '../../clock';
import { readAddress } from './read-address';
import type { Db } from '../../db/open';
import { ownChanged } from '../../db/roster';
import type { FailingPage, FailingAddress, Mended } from './types';
import type { AddressRow } from '../../db/models/roster';

const mostMissed = 20;
const addressesPerPage = 50;

/** The addresses to mend that a user may see, those that failed last on top. */
export async function failingAddresses(db: Db, user: User, page = 1): Promise<FailingPage> {
	const condition = scope(user).addresses;
	const counts = await mendCounts(db, user);
	const found = counts.email + counts.text;
	const shown = Math.min(Math.max(1, Math.ceil(found / addressesPerPage)), page);
	const theirs = scope(user).dispatches;
	const rows = await db.all<
		Omit<FailingAddress, 'missed' | 'shown'> & { missed: string; offices: string | null }
	>(
		`SELECT address.id, address.person_id AS personId, given_name || ' ' || family_name AS person, way, value,
			failing AS why, failing_since AS since,
			coalesce((SELECT group_concat(given_name, ', ') FROM contact_now AS contact
				JOIN person AS student ON student.id = student_id
				WHERE contact.person_id = address.person_id), '') AS students,
			(SELECT group_concat(DISTINCT school.name || ' office') FROM contact_now AS contact
				JOIN person AS student ON student.id = contact.student_id
				JOIN school ON school.id = student.school_id WHERE contact.person_id = address.person_id) AS offices,
			(SELECT json_group_array(json_object('id', id, 'subject', subject)) FROM (
				SELECT dispatch.id, subject FROM delivery JOIN dispatch ON dispatch.id = dispatch_id
				WHERE delivery.person_id = address.person_id AND delivery.way = address.way
					AND delivery.state = 'failed' AND delivery.address = address.value COLLATE NOCASE AND ${theirs.sql}
				UNION SELECT dispatch.id, subject FROM left_out JOIN dispatch ON dispatch.id = dispatch_id
				WHERE left_out.person_id = address.person_id AND EXISTS (SELECT 1 FROM json_each(reasons) WHERE value ->> 'code' = 'address-failing')
					AND coalesce(leaves_at, 0) >= failing_since AND ${theirs.sql}
				ORDER BY 1 DESC LIMIT ${mostMissed})) AS missed
		FROM address JOIN person ON person.id = person_id
		WHERE failing IS NOT NULL AND ${condition.sql}
		ORDER BY failing_since DESC, family_name, address.id LIMIT ${addressesPerPage} OFFSET $offset`,
		{
			offset: (shown - 1) * addressesPerPage,
			...condition.bind,
			...theirs.bind
		}
	);
	const addresses = rows.map(({ offices, missed, ...row }) => ({
		...row,
		shown: addressText(row.way, row.value),
		missed: JSON.parse(missed) as FailingAddress['missed'],
		lookedAfterBy: offices?.replaceAll(',', ', ') ?? 'district office'
	}));
	return { found, page: shown, addresses };
}

/** How many addresses wait to be mended, by way, of those that a user may see; of all, or of those that began to fail after an instant (ms) and until another. */
export async function mendCounts(
	db: Db,
	user: User,
	began?: { readonly after: number; readonly until: number }
): Promise<{ email: number; text: number }> {
	const condition = scope(user).addresses;
	const rows = await db.all<Pick<AddressRow, 'way'> & { n: number }>(
		`SELECT way, count(*) AS n FROM address WHERE failing IS NOT NULL AND ${condition.sql}
			${began ? 'AND failing_since > $after AND failing_since <= $until' : ''} GROUP BY way`,
		{ ...began, ...condition.bind }
	);
	const of = (way: string) => rows.find((r) => r.way === way)?.n ?? 0;
	return { email: of('email'), text: of('text') };
}

/** What is done about an address: used again as it is, or with another value. */
export const mendSchema = z.object({
	id: z.coerce.number().int().positive(),
	/** Empty to use it again as it is. */
	value: z.string().trim().max(320).default('')
});

/**
 * Uses an address again: as it is, for everyone who has it, or with another value for this one
 * person. What is no address is refused with the reason, and nothing is changed.
 */
export async function mendAddress(
	db: Db,
	user: User,
	{ id, value }: z.infer<typeof mendSchema>
): Promise<Mended> {
	const condition = scope(user).people('address.person_id', 'look-after');
	return db.write(async (tx): Promise<Mended> => {
		const row = await tx.one<
			Pick<AddressRow, 'personId' | 'way' | 'value' | 'failing'> & { person: string }
		>(
			`SELECT person_id AS personId, given_name || ' ' || family_name AS person, way, value, failing
			FROM address JOIN person ON person.id = person_id WHERE address.id = $id AND ${condition.sql}`,
			{ id, ...condition.bind }
		);
		if (!row || !isAllowed(user, 'mend')) {
			return { ok: false, why: 'There is no such address, or the school office looks after it.' };
		}
		// As by hand: an address of whoever signs in here is a way into what they may do.
		const theirs = await tx.one(`SELECT 1 FROM (${worksHere}) WHERE person_id = $id`, {
			id: row.personId
		});
		if (theirs && value !== '' && !isAllowed(user, 'speak-for-district'))
			return {
				ok: false,
				why: `${row.person} signs in here, so the district office puts their address right.`
			};
		if (row.failing === null) {
			return { ok: true, said: `The address of ${row.person} works already.` };
		}
		const read = value === '' ? { value: row.value } : await readAddress(tx, row.way, value);
		if ('why' in read) return { ok: false, why: read.why };
		const next = read.value;
		const same = value === '' || next.toLowerCase() === row.value.toLowerCase();
		const touched = await tx.all<
			Pick<AddressRow, 'id' | 'personId'> & { before: AddressRow['value'] }
		>(
			`SELECT id, person_id AS personId, value AS before FROM address WHERE failing IS NOT NULL
				AND ${same ? 'way = $way AND value = $before COLLATE NOCASE' : 'id = $id'}`,
			same ? { way: row.way, before: row.value } : { id }
		);
		const at = await now(tx);
		for (const t of touched) {
			const after = t.id === id ? next : t.before;
			await tx
				.rows(address)
				.change({ id: t.id }, { value: after, failing: null, failingSince: null });
			await tx
				.rows(mended)
				.add({ addressId: t.id, at, byId: user.personId, before: t.before, after });
		}
		await ownChanged(
			tx,
			touched.map((t) => t.personId)
		);
		await writeDown(tx, {
			...{ act: 'address-mended', by: user, to: ['person', row.personId] },
			after: { way: row.way, same, people: touched.length }
		});
		if (same) {
			const people = touched.length > 1 ? ` for ${touched.length} people` : '';
			return { ok: true, said: `${next} is used again${people}.` };
		}
		// Who shares a mailbox need not share the new one: each is asked for, none is guessed.
		const others = (await tx.one<{ n: number }>(
			`SELECT count(*) AS n FROM address WHERE failing IS NOT NULL AND way = $way AND value = $before COLLATE NOCASE`,
			{ way: row.way, before: row.value }
		))!.n;
		const left =
			others === 0
				? ''
				: ` ${others === 1 ? 'One more person has' : `${others} more people have`} the old one, which is still to be mended.`;
		return { ok: true, said: `${row.person} is written to at ${next} from now on.${left}` };
	});
}
