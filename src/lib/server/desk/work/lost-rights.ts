import { writeDown } from '../../access/log';
import { userById, usersWho } from '../../access/user';
import { now } from '../../clock';
import { free, isTouched } from '../../db/copy-state';
import { readDistrict, writeSetting } from '../../db/district';
import type { Db } from '../../db/open';
import { studentsAllowed } from '../../access/allowed';
import { may } from '../../access/may';
import { endStandingsOf } from '../send/standing';
import { replan } from '../send/replan';
import { putNotices } from '../staff/notices';
import { record } from '../track/record';

/** What was stopped of one dispatch. */
interface Stopped {
	readonly id: number;
	readonly subject: string;
	readonly why: string;
}

/** Holds up what somebody has scheduled and may no longer send; what is on its way already stops where it is. */
async function holdWhatIsLost(db: Db, key: Buffer, personId: number): Promise<Stopped[]> {
	const rows = await db.all<{
		id: number;
		subject: string;
		touched: number;
		schoolId: number | null;
	}>(
		`SELECT id, subject, ${isTouched} AS touched, school_id AS schoolId FROM dispatch
		WHERE sender_id = $personId AND state = 'scheduled' AND kind != 'answer' AND waits IS NULL ORDER BY leaves_at`,
		{ personId }
	);
	const stopped: Stopped[] = [];
	for (const { id, subject, touched, schoolId } of rows) {
		const why = touched ? await stopOnItsWay(db, personId, id) : await askAgain(db, key, id);
		if (why === null) continue;
		stopped.push({ id, subject, why });
		await db.write((tx) =>
			writeDown(tx, {
				...{ act: 'sheet-waits', by: null, to: ['dispatch', id], schoolId },
				after: { of: personId }
			})
		);
	}
	return stopped;
}

/** Works a dispatch out anew for what its sender may do now; why it is held up, or null. */
async function askAgain(db: Db, key: Buffer, id: number): Promise<string | null> {
	await db.run(
		`UPDATE dispatch SET settled = 0 WHERE id = $id AND state = 'scheduled' AND NOT ${isTouched}`,
		{ id }
	);
	await replan(db, key, id);
	const row = await db.one<{ waits: string | null }>('SELECT waits FROM dispatch WHERE id = $id', {
		id
	});
	return row?.waits ?? null;
}

/** Stops the copies that have not left of a dispatch on its way, for students whom its sender may no longer write to; null where there are none. */
async function stopOnItsWay(db: Db, personId: number, id: number): Promise<string | null> {
	const user = await userById(db, personId);
	const allowed =
		user === null || !may(user, 'schedule') ? [] : await studentsAllowed(db, user, 'schedule');
	if (allowed === null) return null;
	return db.write(async (tx) => {
		const waiting = await tx.all<{ id: number }>(
			`SELECT id FROM delivery WHERE dispatch_id = $id AND ${free} AND NOT EXISTS (SELECT 1 FROM delivery_student
				WHERE delivery_id = delivery.id AND student_id IN (SELECT value FROM json_each($allowed)))`,
			{ id, allowed: JSON.stringify(allowed) }
		);
		if (waiting.length === 0) return null;
		const at = await now(tx);
		await record(
			tx,
			waiting.map((w) => ({
				...{ deliveryId: w.id, at, kind: 'stopped' as const, source: 'courier' as const },
				code: 'right-lost',
				detail: 'stopped before it left: its sender may no longer send it'
			}))
		);
		return `${waiting.length} ${waiting.length === 1 ? 'copy' : 'copies'} that had not left ${waiting.length === 1 ? 'was' : 'were'} stopped.`;
	});
}

/** Follows a change of what people may do: what they have scheduled and may no longer send is held up, and they are told. */
export async function followRights(db: Db, key: Buffer, people: readonly number[]): Promise<void> {
	for (const personId of people) {
		const user = await userById(db, personId);
		const stopped = await holdWhatIsLost(db, key, personId);
		const ended = user && may(user, 'schedule') ? [] : await endStandingsOf(db, personId);
		if (stopped.length + ended.length === 0) continue;
		const { name } = await readDistrict(db);
		const lines = [
			...stopped.map((s) => `- “${s.subject}”: ${s.why}`),
			...ended.map((subject) => `- “${subject}”, which waited for a marker: ended.`)
		];
		// Whoever looks after the accounts is told as well: families may still wait for it.
		const told = new Set([
			personId,
			...(await usersWho(db, 'accounts', { whole: true })).map((u) => u.personId)
		]);
		await db.write(async (tx) => {
			const at = Math.round(await now(tx));
			const who = await tx.one<{ name: string }>(
				`SELECT given_name || ' ' || family_name AS name FROM person WHERE id = $personId`,
				{ personId }
			);
			await putNotices(
				tx,
				[...told].map((to) => ({
					key: `rights ${personId} ${at} ${to}`,
					personId: to,
					kind: 'sign-in' as const,
					subject:
						to === personId
							? 'What you had scheduled was held up'
							: `What ${who?.name ?? 'somebody'} had scheduled was held up`,
					text: [
						`What ${to === personId ? 'you' : (who?.name ?? 'they')} may do at ${name} has changed. What was scheduled and may not be sent any more does not leave:`,
						lines.join('\n'),
						`Copies that have left have left. ${to === personId ? 'Whoever looks after the accounts here can tell you why, and somebody with the right can send it in your place.' : 'It waits in Week: send it, or write it anew.'}`
					].join('\n\n'),
					dispatchId: null,
					byMail: true
				}))
			);
		});
	}
}

/** Follows roles that have ended by their time since it was last asked; how many people that concerns. */
export async function followRoleTimes(db: Db, key: Buffer): Promise<number> {
	const time = Math.round(await now(db));
	const last = await db.one<{ at: number }>(
		`SELECT value ->> '$' AS at FROM setting WHERE key = 'roles-asked'`
	);
	if (last && last.at === time) return 0;
	const people = last
		? await db.all<{ id: number }>(
				'SELECT DISTINCT person_id AS id FROM role WHERE ends_at > $last AND ends_at <= $time',
				{ last: last.at, time }
			)
		: [];
	await followRights(
		db,
		key,
		people.map((p) => p.id)
	);
	if (!last || people.length > 0 || time - last.at > 3_600_000 || time < last.at)
		await db.write((tx) => writeSetting(tx, 'roles-asked', time));
	return people.length;
}
