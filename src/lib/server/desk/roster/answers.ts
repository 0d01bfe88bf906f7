import { z } from 'zod';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { rosterFile, rosterSource } from '../../db/models/rosters';
import { rowSet } from '../../db/many';
import type { Db } from '../../db/open';
import type { Said } from '../../said';
import { changeFile } from './files';
import { readCustody, sourceById } from './sources';

const notNow = {
	ok: false,
	why: 'This file has come in already, or was given up. Load the page again.'
} as const;

/** What somebody says of the custody of new contacts, relation by relation: for this file, or for all that come from its source. */
export const custodyAnswerSchema = z.object({
	said: z.record(z.string().max(200), z.enum(['yes', 'no', 'ask'])),
	always: z.boolean()
});

/** Writes down what was said of custody; the file has to be looked at again after it. */
export async function sayCustody(
	db: Db,
	user: User,
	fileId: number,
	{ said, always }: z.infer<typeof custodyAnswerSchema>
): Promise<Said<object>> {
	if (!isAllowed(user, 'bring-roster')) return notNow;
	return db.write(async (tx): Promise<Said<object>> => {
		const row = await tx.rows(rosterFile).one({ id: fileId });
		if (row?.state !== 'looked') return notNow;
		const merged = (before: Readonly<Record<string, string>>) =>
			JSON.stringify(
				Object.fromEntries(
					Object.entries({ ...before, ...said }).filter(([, value]) => value !== 'ask')
				)
			);
		await changeFile(tx, fileId, {
			state: 'looking',
			byId: row.byId ?? user.personId,
			custody: merged(readCustody(row.custody))
		});
		if (always) {
			const source = await sourceById(tx, row.sourceId);
			await tx.rows(rosterSource).change({ id: source.id }, { custody: merged(source.custody) });
		}
		return { ok: true };
	});
}

/** Whether people in the file are those known here: by key and person. */
export const sameAnswerSchema = z.array(
	z.object({
		key: z.string().min(1).max(255),
		personId: z.number().int().positive(),
		same: z.boolean()
	})
);

const answerSet = rowSet('$answers', ['key', 'person', 'same']);

/** Writes down who is the same and who is another; the file has to be looked at again after it. */
export async function saySame(
	db: Db,
	user: User,
	fileId: number,
	answers: z.infer<typeof sameAnswerSchema>
): Promise<Said<object>> {
	if (!isAllowed(user, 'bring-roster')) return notNow;
	return db.write(async (tx): Promise<Said<object>> => {
		const row = await tx.rows(rosterFile).one({ id: fileId });
		if (row?.state !== 'looked') return notNow;
		const at = Math.round(await now(tx));
		await tx.run(
			`INSERT INTO same_or_other (source_id, key, person_id, same, at, by_id)
			SELECT $source, said.key, person.id, said.same, $at, $by
			FROM ${answerSet.table} AS said JOIN person ON person.id = said.person WHERE true
			ON CONFLICT DO UPDATE SET same = excluded.same, at = excluded.at, by_id = excluded.by_id`,
			{
				source: row.sourceId,
				at,
				by: user.personId,
				answers: answerSet.json(
					answers.map((a) => ({ key: a.key, person: a.personId, same: Number(a.same) }))
				)
			}
		);
		await changeFile(tx, fileId, { state: 'looking', byId: row.byId ?? user.personId });
		return { ok: true };
	});
}

/** Has a file looked at: one whose content has come, or one whose look is out of date. */
export async function askForLook(db: Db, user: User, fileId: number): Promise<Said<object>> {
	if (!isAllowed(user, 'bring-roster')) return notNow;
	return db.write(async (tx): Promise<Said<object>> => {
		const row = await tx.rows(rosterFile).one({ id: fileId }, ['state', 'byId']);
		if (!row || !['coming', 'looked', 'looking'].includes(row.state)) return notNow;
		await changeFile(tx, fileId, { state: 'looking', byId: row.byId ?? user.personId });
		return { ok: true };
	});
}
