import { studentsAllowed } from '../../access/allowed';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import type { Db, Query } from '../../db/open';
import type { RepliesView, StaffLetter, ReplyLine } from './types';
import type { AnswerRow, DeliveryRow, TextInRow } from '../../db/models/delivery';
import type { DispatchRow } from '../../db/models/dispatch';

/** The newest of each; conversations with all of them come later. */
const most = 60;

/** What has come back from families that the user may see, and the letters to the user: the newest first. */
export async function repliesView(db: Db, user: User): Promise<RepliesView> {
	const { zone } = await readDistrict(db);
	const replies = [...(await mails(db, user)), ...(await texts(db, user))]
		.sort((a, b) => b.at - a.at)
		.slice(0, most);
	return {
		zone,
		now: await now(db),
		replies,
		letters: await db.all<StaffLetter>(
			`SELECT id, subject, html, made_at AS at, dispatch_id AS dispatchId FROM notice
			WHERE person_id = $me ORDER BY id DESC LIMIT ${most}`,
			{ me: user.personId }
		)
	};
}

async function mails(db: Query, user: User): Promise<ReplyLine[]> {
	const condition = scope(user).dispatches;
	const rows = await db.all<
		Pick<AnswerRow, 'id' | 'at' | 'fromName' | 'fromAddress' | 'text' | 'doubt'> &
			Pick<DeliveryRow, 'personId'> &
			Pick<DispatchRow, 'subject'> & { dispatchId: DispatchRow['id'] }
	>(
		`SELECT answer.id, answer.at, from_name AS fromName, from_address AS fromAddress, person_id AS personId,
			answer.text, doubt, dispatch.id AS dispatchId, dispatch.subject
		FROM answer JOIN delivery ON delivery.id = delivery_id JOIN dispatch ON dispatch.id = dispatch_id
		WHERE ${condition.sql} ORDER BY answer.at DESC LIMIT ${most}`,
		condition.bind
	);
	return rows.map((r) => ({
		key: `m${r.id}`,
		way: 'email',
		at: r.at,
		from: r.fromName || r.fromAddress,
		personId: r.personId,
		words: r.text,
		dispatch: { id: r.dispatchId, subject: r.subject },
		doubtful: r.doubt !== null,
		command: null
	}));
}

/** Texts of whoever the user may write to; a number that nobody has is the district office's to see. */
async function texts(db: Query, user: User): Promise<ReplyLine[]> {
	const students = await studentsAllowed(db, user);
	const condition = scope(user).dispatches;
	const rows = await db.all<
		Pick<TextInRow, 'id' | 'at' | 'fromNumber' | 'words' | 'command' | 'personId'> & {
			name: string | null;
			dispatchId: number | null;
			subject: string | null;
		}
	>(
		`SELECT text_in.id, text_in.at, from_number AS fromNumber, words, command, text_in.person_id AS personId,
			given_name || ' ' || family_name AS name, dispatch.id AS dispatchId, dispatch.subject
		FROM text_in LEFT JOIN person ON person.id = text_in.person_id
		LEFT JOIN delivery ON delivery.id = delivery_id
		LEFT JOIN dispatch ON dispatch.id = dispatch_id AND ${condition.sql}
		WHERE ${
			students === null
				? '1'
				: `text_in.person_id IN (SELECT value FROM json_each($students) UNION
			SELECT person_id FROM contact_now AS contact WHERE student_id IN (SELECT value FROM json_each($students)))`
		}
		ORDER BY text_in.at DESC LIMIT ${most}`,
		{
			...condition.bind,
			...(students === null ? {} : { students: JSON.stringify(students) })
		}
	);
	return rows.map((r) => ({
		key: `t${r.id}`,
		way: 'text',
		at: r.at,
		from: r.name ?? r.fromNumber,
		personId: r.personId,
		words: r.words,
		dispatch: r.dispatchId === null ? null : { id: r.dispatchId, subject: r.subject ?? '' },
		doubtful: false,
		command: r.command
	}));
}
