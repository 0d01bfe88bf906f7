import { setClock } from '../src/lib/server/clock';
import type { Db } from '../src/lib/server/db/open';
import { askToJoin, letIn, type Asking } from '../src/lib/server/desk/joining/join';
import { invite } from '../src/lib/server/desk/joining/invite';
import { takeJoinerOut } from '../src/lib/server/desk/joining/look-after';
import { openGroup } from '../src/lib/server/desk/joining/open-group';
import { groupJoined } from '../src/lib/server/desk/joining/open-groups';
import { joiningsWhere } from '../src/lib/server/desk/joining/rows';
import { userNamed } from './history';

const hourMs = 3_600_000;

/** Two families of the club's own students, as they stand on file: who has a phone that takes texts. */
const onFile = (db: Db, groupId: number) =>
	db.all<{ adult: string; number: string; student: string; language: string }>(
		`SELECT adult.given_name || ' ' || adult.family_name AS adult, value AS number, adult.language,
			student.given_name || ' ' || student.family_name AS student
		FROM group_member JOIN contact_now ON student_id = group_member.person_id
		JOIN person AS adult ON adult.id = contact_now.person_id JOIN person AS student ON student.id = student_id
		JOIN address ON address.person_id = adult.id
		WHERE group_id = $groupId AND guardian AND custody AND correspondence AND way = 'text' AND consent = 'in'
		GROUP BY student.id ORDER BY student.id LIMIT 3`,
		{ groupId }
	);

/** Opens the garden club two days before the demo begins, and has some people join it in each way. */
export async function joinSome(db: Db, until: number): Promise<void> {
	const maren = await userNamed(db, 'maren');
	const { id } = (await db.one<{ id: number }>(
		`SELECT id FROM school_group WHERE name = 'Kelp Garden'`
	))!;
	const start = until - 50 * hourMs;
	await setClock(db, start);
	const opened = await openGroup(db, maren, id, { code: 'KELP', until: '2027-05-28' });
	if (!opened.ok) throw new Error(`open groups: ${opened.why}`);
	const group = await groupJoined(db, id);
	let at = start;
	const come = async (asking: Asking, answers = true) => {
		at += hourMs;
		await db.write(async (tx) => {
			const row = await askToJoin(tx, group, asking, at);
			if (answers) await letIn(tx, group, row, asking, at + 60_000);
		});
	};
	for (const { adult, number, student, language } of await onFile(db, id))
		await come({ way: 'text', address: number, how: 'text', name: adult, student, language });
	const byMail = (
		how: 'mail' | 'link',
		name: string,
		address: string,
		student = '',
		language = 'en'
	): Asking => ({ way: 'email', address, how, name, student, language });
	await come(byMail('link', 'Rosalind Tidewell', 'rosalind@tidewell.example', 'Pip Tidewell'));
	await come(byMail('mail', 'Ignace Moorhen', 'ignace@moorhen.example'));
	await come(byMail('link', 'Estela Cordero', 'estela@cordero.example', '', 'es'));
	await come(byMail('link', 'Some Body', 'nobody@elsewhere.example'));
	await come(byMail('link', 'Wil Gannet', 'wil@gannet.example'), false);
	const [stranger] = await joiningsWhere(db, `name = 'Some Body'`, {});
	await takeJoinerOut(db, maren, id, stranger!.id);
	await invite(db, maren, id, {
		addresses: 'Harriet Loon <harriet@loon.example>, seeds@harborshop.example',
		language: 'en'
	});
	// What was said to them has been said.
	await db.run(`UPDATE auto_note SET state = 'sent'`);
}
