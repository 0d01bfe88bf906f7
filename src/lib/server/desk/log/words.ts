import { count } from '../../../core/copy/count';
import type { ClockStyle } from '../../../core/copy/clock-style';
import { dayTime } from '../../../core/time/zone';
import { dateWords } from '../../../core/time/said-day';
import type { LoggedValues } from '../../access/log';
import type { LogAct } from '../../db/models/log';
import {
	actWords,
	chapterWords,
	groupDone,
	joiningDone,
	outsideRefused,
	roleWords,
	whatWentOut
} from './codes';

/** What a line says, with the names that its numbers stand for. */
export interface Told {
	readonly before: LoggedValues;
	readonly after: LoggedValues;
	/** What it was done to: a subject, a name, “something that is gone”. */
	readonly about: string;
	/** The name of a person by number. */
	readonly person: (id: unknown) => string;
	readonly school: (id: unknown) => string;
	readonly section: (id: unknown) => string;
	readonly zone: string;
	/** How a time of day is written. */
	readonly style: ClockStyle;
}

/** A number of a line; lines are read that an older version of ours has written. */
const num = (n: unknown): number => (typeof n === 'number' ? n : 0);
const many = (n: unknown, one: string, more: string): string =>
	`${count(num(n))} ${num(n) === 1 ? one : more}`;
const dayOf = (day: unknown): string => (typeof day === 'string' ? dateWords(day) : 'some day');
const copies = (n: unknown) => many(n, 'copy', 'copies');
type ByClock = Pick<Told, 'zone' | 'style'>;
const when = (at: unknown, { zone, style }: ByClock): string =>
	typeof at === 'number' ? dayTime(at, zone, undefined, style) : 'no time';
const days = ({ startsOn, endsOn }: LoggedValues): string =>
	`${dayOf(startsOn)} until before ${dayOf(endsOn)}`;
const text = (of: unknown): string => (typeof of === 'string' ? of : '');
const list = (of: unknown): string => (Array.isArray(of) ? of.join(', ') : '');
/** Where a role holds, in words. */
const place = ({ school, section }: LoggedValues, told: Told): string =>
	section
		? `for ${told.section(section)}`
		: school
			? `at ${told.school(school)}`
			: 'in the district';
const span = ({ from, until }: LoggedValues, clock: ByClock): string =>
	[
		typeof from === 'number' && from > 0 ? ` from ${when(from, clock)}` : '',
		typeof until === 'number' ? ` until ${when(until, clock)}` : ''
	].join('');

/** The sentence of each act, after the name of who did it. */
const sentences: Readonly<Record<LogAct, (told: Told) => string>> = {
	'sheet-scheduled': ({ about, after, ...clock }) =>
		`scheduled ${about}: ${copies(after.copies)}${after.leavesAt === undefined ? '' : `, leaving ${when(after.leavesAt, clock)}`}${after.urgent ? ', urgently' : ''}`,
	'sheet-moved': ({ about, before, after, ...clock }) =>
		`moved ${about} from ${when(before.leavesAt, clock)} to ${when(after.leavesAt, clock)}`,
	'sheet-called-back': ({ about, before, ...clock }) =>
		`called ${about} back before it left ${when(before.leavesAt, clock)}`,
	'sheet-stopped': ({ about, after }) =>
		`stopped ${about}: ${copies(after.stopped)} not sent, ${count(num(after.left))} had left`,
	'sheet-resumed': ({ about, after, ...clock }) =>
		`let ${about} go on, leaving ${when(after.leavesAt, clock)}`,
	'sheet-once-more': ({ about, after }) => `had ${copies(after.copies)} of ${about} sent once more`,
	'sheet-waits': ({ about, after, person }) =>
		`held ${about} up: ${person(after.of)} may no longer send it`,
	'draft-deleted': () => 'deleted a draft',
	'standing-put': ({ about, after }) =>
		`let ${about} wait for ${after.feed ? 'what is new in a feed' : 'a marker'}: ${after.feed ? '' : 'up to '}${copies(after.copies)}`,
	'standing-ended': ({ about }) => `ended ${about}, which left by itself`,
	'put-back-released': ({ after }) =>
		`let copies leave again from a database that was put back; ${copies(after.copies)} that were due were ${after.due === 'send' ? 'sent' : 'left out'}`,
	'event-made': ({ about, after, ...clock }) =>
		`made the event ${about}, ${when(after.startsAt, clock)}`,
	'event-changed': ({ about, before, after, ...clock }) =>
		before.startsAt === after.startsAt
			? `changed the event ${about}`
			: `moved the event ${about} from ${when(before.startsAt, clock)} to ${when(after.startsAt, clock)}; ${many(after.reminders, 'reminder', 'reminders')} moved with it`,
	'event-called-off': ({ about, after }) =>
		`called the event ${about} off; ${many(after.reminders, 'reminder waits', 'reminders wait')}`,
	'closure-put': ({ after }) => `put down days without school: ${days(after)}`,
	'closure-dropped': ({ before }) => `took out days without school: ${days(before)}`,
	'calendar-brought': ({ after }) =>
		`brought a calendar in: ${count(num(after.fresh))} new, ${count(num(after.changed))} changed`,
	'person-changed': ({ about, after }) => `changed ${about}: ${list(after.fields)}`,
	'address-mended': ({ about, after }) =>
		`${after.same ? 'used an address again' : 'changed an address'} (${text(after.way)}) of ${about}`,
	'spoken-to': ({ about }) => `put down that somebody spoke to the family of ${about}`,
	'not-spoken-to': ({ about }) => `took back that somebody had spoken to the family of ${about}`,
	'group-changed': ({ about, after }) => `${groupDone(after.what)} the group ${about}`,
	'joining-changed': ({ about, after }) => `${joiningDone(after.what)} the open group ${about}`,
	'marker-made': ({ about }) => `made the marker ${about}`,
	'marker-changed': ({ about, after }) =>
		`set the marker ${about} for ${many(after.students, 'student', 'students')}`,
	'marker-given-up': ({ about }) => `gave the marker ${about} up`,
	'link-given': ({ about, after, ...clock }) =>
		`made a link to the inbox of ${about}, which ends ${when(after.endsAt, clock)}`,
	'links-ended': ({ about }) => `ended every link to the inbox of ${about}`,
	'section-open': ({ about, after }) =>
		after.open
			? `let families write to the staff of ${about}`
			: `lets families write to the staff of ${about} no more`,
	'board-opened': ({ about, after, school }) => {
		const of =
			about !== '' ? about : after.school === undefined ? 'the district' : school(after.school);
		return after.open
			? `made a link for anybody to the board of ${of}`
			: `ended the link for anybody to the board of ${of}`;
	},
	'board-changed': ({ about }) => `changed what boards say of ${about}`,
	'board-pinned': ({ about, after }) =>
		after.pinned ? `pinned ${about} on its boards` : `pinned ${about} on its boards no more`,
	'board-taken-off': ({ about }) => `took ${about} off the boards`,
	'roster-taken-in': ({ about, after }) =>
		`took the roster ${about} in: ${many(after.rows, 'row', 'rows')}`,
	'roster-taken-back': ({ about }) => `took the roster ${about} back`,
	'roster-refused': ({ about }) => `could not read the roster ${about}`,
	'roster-dropped': ({ about }) => `gave the roster ${about} up`,
	'invitation-changed': ({ about, after }) =>
		num(after.came) > 0
			? `changed the places or the time of the invitation ${about}: ${many(after.came, 'answer', 'answers')} moved up`
			: `changed the places or the time of the invitation ${about}`,
	'invitation-opened': ({ about, after }) =>
		after.open
			? `made a link by which anybody can answer ${about}`
			: `ended the link by which anybody could answer ${about}`,
	'coming-put-down': ({ about, after }) =>
		after.comes
			? `put down that ${many(after.people, 'person comes', 'people come')} to ${about}`
			: `put down that somebody does not come to ${about}`,
	answered: ({ after }) => `answered ${many(after.copies, 'conversation', 'conversations')}`,
	'answer-called-back': () => 'called an answer back',
	'conversation-passed-on': ({ after, person }) =>
		`passed a conversation on to ${person(after.to)}`,
	'answer-moved': () => 'moved an answer to another conversation',
	'signed-in': () => 'signed in',
	'signed-out': () => 'signed out',
	'sign-in-refused': ({ about, after }) =>
		after.what === 'outside'
			? `somebody came from the identity provider${about === '' ? '' : ` as ${about}`} and was not let in: ${outsideRefused(after.why)}`
			: after.what === 'factor'
				? `a second factor for ${about} did not fit`
				: `a password for ${about} did not fit`,
	'outside-name': ({ about }) => `bound ${about} to their name at the identity provider`,
	'outside-let-go': ({ about }) => `let go of the name of ${about} at the identity provider`,
	'sessions-ended': ({ about, after }) =>
		`ended ${many(after.sessions, 'session', 'sessions')} of ${about}`,
	invited: ({ about }) => `invited ${about} to sign in here`,
	'invitation-ended': ({ about }) => `took the invitation of ${about} back`,
	'account-opened': ({ about }) => `opened the account of ${about}`,
	'account-closed': ({ about }) => `closed the account of ${about}`,
	'password-changed': ({ about, after }) =>
		after.how === 'link'
			? `set a new password for ${about} by a mailed link`
			: 'changed their password',
	'password-forgotten': ({ about }) => `a link for a new password was mailed to ${about}`,
	'factor-on': () => 'turned their second factor on',
	'factor-off': ({ about, after }) =>
		after.how === 'office'
			? `turned the second factor of ${about} off`
			: 'turned their second factor off',
	'role-given': (told) =>
		`made ${told.about} ${roleWords(told.after.role)} ${place(told.after, told)}${span(told.after, told)}`,
	'role-ended': (told) =>
		`ended that ${told.about} is ${roleWords(told.before.role)} ${place(told.before, told)}`,
	'rights-changed': ({ before, after }) =>
		`changed what ${roleWords(after.role)} can do: from ${list(before.rights) || 'nothing'} to ${list(after.rights) || 'nothing'}`,
	founded: () => 'set the district up, and was its first to sign in',
	'setting-changed': ({ after: { chapter }, school }) =>
		`changed the settings: ${chapterWords(chapter, school)}`,
	refused: ({ after }) => `tried to ${actWords(after.what)}, and may not`,
	'packed-up': ({ after }) => `packed up what the district takes along: ${list(after.parts)}`,
	'went-out': ({ about, after }) =>
		`took ${whatWentOut(after.what)} out${about === '' ? '' : `, of ${about}`}`,
	'past-keeping': ({ after }) =>
		`let go what was past its time: the words of ${many(after.letters, 'letter', 'letters')}, of ${many(after.evidence, 'event', 'events')} and of ${many(after.answers, 'answer', 'answers')}, the addresses of ${copies(after.addresses)}`,
	erased: ({ about }) => `erased everything about ${about}`
};

/** What a line says, after the name of who did it. */
export const logWords = (act: LogAct, told: Told): string => sentences[act](told);
