import { userWith } from '../../src/lib/server/access/rights';
import { openSession } from '../../src/lib/server/access/sessions';
import { openAccount } from '../../src/lib/server/access/accounts';
import { userById } from '../../src/lib/server/access/user';
import { randomUUID } from 'node:crypto';
import { wordingOf } from '../../src/lib/core/copy/words';
import type { User } from '../../src/lib/server/access/user';
import { districtSchema, writeSetting } from '../../src/lib/server/db/district';
import type { Db } from '../../src/lib/server/db/open';
import { sheetWith, type Sheet } from '../../src/lib/server/desk/sheet/sheet';
import type { Way } from '../../src/lib/core/roster/way';

/** A sheet to the guardians of some schools of the large district, as a coordinator sends it at once. */
export const benchSheet = (
	schoolIds: readonly number[],
	ways: readonly Way[],
	over: Partial<Sheet> = {}
): Sheet =>
	sheetWith({
		sheetKey: randomUUID(),
		audience: {
			version: 2,
			lines: [
				{
					verb: 'and',
					to: [{ kind: 'guardians' }],
					of: { kind: 'schools', ids: [...schoolIds] },
					only: []
				}
			],
			byHand: []
		},
		ways: [...ways],
		wording: wordingOf(
			'Late boats on Friday',
			'Dear {{first_name}},\n\nthe 7:20 boat leaves at 8:00 on Friday. First period begins at 8:55 for {{student}}; nobody is marked late.'
		),
		holdMinutes: 0,
		...over
	});

/** Gives the large district its settings and somebody who may send. */
export async function openFor(db: Db): Promise<User> {
	await writeSetting(
		db,
		'district',
		districtSchema.parse({
			name: 'Brackwater Isles',
			zone: 'America/New_York',
			mailFrom: 'letters@brackwater.example',
			textFrom: '12075550100',
			linkDays: 180,
			quietDays: 'never',
			quiet: { text: { fromMinute: 0, toMinute: 0 }, mail: { fromMinute: 0, toMinute: 0 } }
		})
	);
	const personId = (await db.one<{ id: number }>('SELECT min(person_id) AS id FROM staff'))!.id;
	const role = { role: 'coordinator', schoolId: null, sectionId: null } as const;
	const user = userWith({ personId, name: 'Bench', title: 'Bench' }, [role]);
	if (!(await userById(db, personId)))
		await db.write((tx) =>
			openAccount(tx, { ...user, ...role, userName: 'bench', passwordHash: 'x' })
		);
	return user;
}

/** The cookie of somebody who has just signed in. */
export async function cookieOf(db: Db, personId: number): Promise<string> {
	const from = { address: '127.0.0.1', agent: 'Mozilla/5.0' };
	const { token } = await db.write((tx) =>
		openSession(tx, personId, from, { before: undefined, factor: 'given' })
	);
	return `session=${token}`;
}
