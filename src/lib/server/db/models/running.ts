import type { WayOut } from '../../../core/roster/way';
import { flag, instant, json, nonce, text, whole } from './column';
import { table, type Row } from './table';

export const setting = table(
	'setting',
	'What the district decides for itself, and small facts that outlive a process.',
	{
		key: text().key(),
		value: json()
	}
);
export const settingChange = table(
	'setting_change',
	'A change of a chapter of the settings, and what stood there before.',
	{
		id: whole().neverTwice(),
		at: instant(),
		byId: whole().of('person').orNull(),
		chapter: text(),
		before: json(),
		after: json()
	}
);
export const clock = table(
	'clock',
	'One row: the time of the job is the machine’s time plus this.',
	{
		id: whole().numbered(),
		offsetMs: whole()
	}
);
export const migration = table('migration', 'The migrations that this file has had.', {
	name: text().key()
});
export const courier = table(
	'courier',
	'One row: which courier is in office (by a rising fence) and how it is.',
	{
		id: whole().numbered(),
		instance: text(),
		fence: whole(),
		beats: whole(),
		runsIn: json().usually(''),
		pid: whole(),
		beatAt: instant(),
		jobAt: instant(),
		startedAt: instant().usually(0),
		trouble: text().usually(''),
		troubleAt: instant().usually(0),
		strangers: whole().usually(0)
	}
);
export const courierWay = table('courier_way', 'How each way stands, and why.', {
	way: text<WayOut>().key(),
	working: flag(),
	since: instant(),
	why: text(),
	slowMs: whole().usually(0)
});
export const mark = table(
	'mark',
	'One row: moves on with each claim, here and in a file beside the database; where the two differ, the courier is held.',
	{
		id: whole().numbered(),
		number: whole(),
		held: json().orNull()
	}
);
export const notice = table(
	'notice',
	'A letter to a member of the staff: an answer passed on, an account, a digest.',
	{
		id: whole().neverTwice(),
		key: text().once(),
		personId: whole().of('person'),
		kind: text<
			'answer' | 'not-sent' | 'forward' | 'account' | 'mend' | 'roster' | 'feed' | 'sign-in'
		>(),
		subject: text(),
		html: text(),
		text: text(),
		dispatchId: whole().of('dispatch', 'CASCADE').orNull(),
		madeAt: instant(),
		address: text().orNull(),
		state: text<'waiting' | 'sent' | 'inbox' | 'failed'>(),
		dueAt: instant(),
		attempts: whole().usually(0),
		detail: text().usually(''),
		readAt: instant().orNull(),
		/** To which what is answered to it by mail goes. */
		conversationId: whole().of('conversation', 'SET NULL').orNull(),
		nonce: nonce(),
		/** The link that stands in it as “{link}”: it is put in when the letter leaves, so that the database holds none. */
		accountLinkId: whole().of('account_link').orNull()
	}
);

export type SettingRow = Row<typeof setting>;
export type ClockRow = Row<typeof clock>;
export type MigrationRow = Row<typeof migration>;
export type CourierRow = Row<typeof courier>;
export type CourierWayRow = Row<typeof courierWay>;
export type MarkRow = Row<typeof mark>;
export type NoticeRow = Row<typeof notice>;
