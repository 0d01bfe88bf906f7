import {
	joining,
	type JoiningRow,
	type JoinNoteKind
} from '../../../../../src/lib/server/db/models/joining';
import { moveTo, now } from '../../../../../src/lib/server/clock';
import { groupSchema, makeGroup } from '../../../../../src/lib/server/desk/groups/change-group';
import { openGroup } from '../../../../../src/lib/server/desk/joining/open-group';
import { joiningsWhere } from '../../../../../src/lib/server/desk/joining/rows';
import { joinByMail } from '../../../../../src/lib/server/desk/joining/by-mail';
import { takeTexts } from '../../../../../src/lib/server/desk/replies/take-texts';
import { office, testSchoolWithOffice, type TestSchool } from '../../database';

export const key = Buffer.alloc(32, 7);

/** The small school with a group that is open by the code KELP. */
export interface OpenSchool extends TestSchool {
	readonly groupId: number;
	/** A phone sends a text. */
	text(from: string, words: string): Promise<void>;
	/** Somebody writes to a group's address. */
	mail(
		from: string,
		over?: { name?: string; subject?: string; text?: string; to?: string }
	): Promise<void>;
	/** The row of an address in the group. */
	row(address: string): Promise<JoiningRow | undefined>;
	/** What was said to an address, or waits to be said, in its order. */
	said(address: string): Promise<JoinNoteKind[]>;
	pass(ms: number): Promise<void>;
}

export async function openSchool(until = ''): Promise<OpenSchool> {
	const school = await testSchoolWithOffice();
	const { db } = school;
	const made = await makeGroup(
		db,
		office,
		groupSchema.parse({ name: 'Kelp Garden', kind: 'club', schoolId: '1' })
	);
	if (!made.ok) throw new Error(made.why);
	const groupId = made.id;
	const opened = await openGroup(db, office, groupId, { code: 'KELP', until });
	if (!opened.ok) throw new Error(opened.why);
	let letters = 0;
	return {
		...school,
		groupId,
		text: (from, words) => db.write((tx) => takeTexts(tx, [{ from, to: '12075550100', words }])),
		mail: (from, { name = '', subject = '', text = '', to = 'join-kelp@return.example' } = {}) =>
			db.write(async (tx) => {
				letters += 1;
				const letter = {
					...{ fromName: name, fromAddress: from, subject, text, answersTo: [], quotes: false },
					...{ whole: '', files: [], messageId: null },
					messageKey: `<letter-${letters}@there.example>`
				};
				await joinByMail(tx, to, letter, Math.round(await now(tx)));
			}),
		row: (address) => db.rows(joining).one({ address, groupId }),
		said: async (address) =>
			(
				await db.all<{ kind: JoinNoteKind }>(
					`SELECT kind FROM auto_note JOIN joining ON joining.id = joining_id
					WHERE joining.address = $address ORDER BY auto_note.id`,
					{ address }
				)
			).map((n) => n.kind),
		pass: async (ms) => void (await moveTo(db, (await now(db)) + ms))
	};
}

/** Everybody who is in a group. */
export const within = (school: OpenSchool): Promise<JoiningRow[]> =>
	joiningsWhere(school.db, `group_id = $id AND state = 'in' ORDER BY id`, { id: school.groupId });
