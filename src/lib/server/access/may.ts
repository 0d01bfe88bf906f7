import type { Bind } from '../db/open';
import { acting } from './acting';
import { has, holdsAt, schoolsOf, whereOf, type Right, type User } from './rights';

/** What an act is done to, where it matters: the person whose it is, or a school (null for all of them). */
interface Things {
	readonly handle: number;
	readonly close: number | null;
	readonly 'look-after': number | null;
	readonly 'write-to-school': number | null;
	readonly 'make-marker': number | null;
	readonly 'read-log': number | null;
}

/** What not everybody may do. */
export type Act =
	/** Write a sheet to somebody. */
	| 'write'
	/** Write to everybody of a school; none is the whole district. */
	| 'write-to-school'
	/** Let a sheet leave. */
	| 'schedule'
	/** Answer families. */
	| 'answer'
	/** Handle a dispatch or an event: whoever sent or made it, and the district office. */
	| 'handle'
	/** Close a school, or open it again. */
	| 'close'
	/** Speak for the whole district: see, write to and handle everyone and everything in it. */
	| 'speak-for-district'
	/** Know and write to more than one's own students and their families. */
	| 'see-others'
	/** Send urgently, past quiet hours: a right of its own. */
	| 'send-urgently'
	/** Send what is urgent also to those who have declined its kind. */
	| 'pass-over'
	/** Look after the running of the whole: the courier, a database that was put back. */
	| 'operate'
	/** Put failing addresses right: an office. A teacher sees them, the office asks the family. */
	| 'mend'
	/** Correct what is known of people and how they belong together: an office. */
	| 'correct-people'
	/** Look after a school, its people and groups: an office its own; none is what is of the whole district. */
	| 'look-after'
	/** Make a marker of a school, for whoever works there; of the whole district: the district office. */
	| 'make-marker'
	/** Give a family a link to its inbox, on paper: an office, never a teacher, since it opens every letter. */
	| 'give-link'
	/** Bring a calendar file in: it speaks for the whole district. */
	| 'import-calendar'
	/** Bring a roster in, mend it and take it back: whoever does decides who is written to at all. */
	| 'bring-roster'
	/** Change what the district has decided for itself. */
	| 'settings'
	/** Say who works here, and what each may do. */
	| 'accounts'
	/** Take everything along, of every school: whoever sees all of it and looks after the settings. */
	| 'take-all-along'
	/** Read what was done, at a school or everywhere. */
	| 'read-log';

/** Whether a user may do something; the one place where rights are weighed. */
export function may<A extends Act>(
	user: User,
	act: A,
	...[thing]: A extends keyof Things ? [thing: Things[A]] : []
): boolean {
	const school = thing ?? null;
	switch (act as Act) {
		case 'write':
		case 'schedule':
		case 'answer':
		case 'pass-over':
		case 'give-link':
		case 'settings':
		case 'accounts':
		case 'operate':
			return has(user, act as Right);
		case 'handle':
			return whereOf(user, 'schedule').whole || thing === user.personId;
		case 'close':
		case 'look-after':
			return holdsAt(user, 'look-after', school);
		case 'speak-for-district':
			return whereOf(user, 'see').whole && whereOf(user, 'write').whole;
		case 'write-to-school':
			return holdsAt(user, 'write', school);
		case 'import-calendar':
			return holdsAt(user, 'look-after', null);
		case 'bring-roster':
			return has(user, 'roster');
		case 'make-marker':
			return (
				holdsAt(user, 'write', school) ||
				(has(user, 'write') && school !== null && schoolsOf(user).includes(school))
			);
		case 'take-all-along':
			return whereOf(user, 'see').whole && whereOf(user, 'settings').whole;
		case 'see-others': {
			const { whole, schools } = whereOf(user, 'see');
			return whole || schools.length > 0;
		}
		case 'mend':
		case 'correct-people':
			return has(user, 'look-after');
		case 'send-urgently':
			return has(user, 'urgent');
		case 'read-log':
			return holdsAt(user, 'log', school);
	}
}

/** As {@link may}, for what is being tried: where the right is not there, the request notes it, and it is written down. */
export function isAllowed<A extends Act>(
	user: User,
	act: A,
	...thing: A extends keyof Things ? [thing: Things[A]] : []
): boolean {
	const allowed = may(user, act, ...thing);
	if (!allowed) acting()?.refused.push(act);
	return allowed;
}

/** A condition for SQL with the values it binds; only what it names is bound, since Sequelize refuses any other. */
interface Condition {
	readonly sql: string;
	readonly bind: Bind;
}

/** What a user may see of each kind of thing, as conditions on its table. */
export interface Scope {
	/** `section`, joined with `course`: those the user may write to. */
	readonly sections: Condition;
	/** `school_group`: the coordinator's all, an office's those of its school. */
	readonly groups: Condition;
	/** `marker`: those of the district and of the user's schools. */
	readonly markers: Condition;
	/** `dispatch`, but for answers to a family, which stand in their conversations: a teacher their own, an office those of its school, the coordinator all; a draft is its writer's only. */
	readonly dispatches: Condition;
	/** `conversation`: an office those of its school, the coordinator all; anybody else those about what they sent, with their sections, and those passed on to them. */
	readonly conversations: Condition;
	/** The same without those that were only passed on. */
	readonly conversationsByRight: Condition;
	/** `kept_audience`: their own, the coordinator all. */
	readonly kept: Condition;
	/** A column of person ids: an office those of its school, their families and staff, and who is on file since they joined a group of it; a teacher own students and their families. Where another right than to see is asked for, those it holds for. */
	people(column: string, right?: Right): Condition;
	/** `address`. */
	readonly addresses: Condition;
	/** `log_line`: everything, or what is about the schools whose log they read. */
	readonly log: Condition;
}

const whole: Condition = { sql: '1', bind: {} };
const none: Condition = { sql: '0', bind: {} };

/** Any of some conditions. */
const anyOf = (...conditions: readonly (Condition | null)[]): Condition => {
	const said = conditions.filter((c) => c !== null);
	if (said.length === 0) return none;
	return {
		sql: `(${said.map((c) => c.sql).join(' OR ')})`,
		bind: Object.assign({}, ...said.map((c) => c.bind)) as Bind
	};
};

/** Where a right holds, in SQL. The values are named by the right, so that two of them can stand in one question. */
function inSql(user: User, right: Right) {
	const { whole: everywhere, schools, sections, own } = whereOf(user, right);
	const name = right.replaceAll('-', '_');
	const [schoolIds, sectionIds] = [`${name}_schools`, `${name}_sections`];
	const inSchools = `IN (SELECT value FROM json_each($${schoolIds}))`;
	const schoolBind = { [schoolIds]: JSON.stringify(schools) };
	const sectionBind = { [sectionIds]: JSON.stringify(sections), user: user.personId };
	return {
		everywhere,
		/** A column of school ids; null where it holds at no whole school. */
		ofSchool: (column: string): Condition | null =>
			schools.length === 0 ? null : { sql: `${column} ${inSchools}`, bind: schoolBind },
		/** What names schools more than once. */
		atSchools: (sql: (inSchools: string) => string): Condition | null =>
			schools.length === 0 ? null : { sql: sql(inSchools), bind: schoolBind },
		/** A set of section ids: what the roster says they teach, and those that are named. */
		inSections: (sql: (set: string) => string): Condition | null => {
			if (!own && sections.length === 0) return null;
			const parts = [
				...(own ? ['SELECT section_id FROM section_staff WHERE person_id = $user'] : []),
				...(sections.length > 0 ? [`SELECT value FROM json_each($${sectionIds})`] : [])
			];
			return {
				sql: sql(`(${parts.join(' UNION ')})`),
				bind: {
					...(own ? { user: sectionBind.user } : {}),
					...(sections.length > 0 ? { [sectionIds]: sectionBind[sectionIds]! } : {})
				}
			};
		}
	};
}

/** What a user may see. */
export function scope(user: User): Scope {
	const me = { user: user.personId };
	const see = inSql(user, 'see');
	const write = inSql(user, 'write');
	const log = inSql(user, 'log');
	const people = (column: string, right: Right = 'see'): Condition => {
		const where = right === 'see' ? see : inSql(user, right);
		if (where.everywhere) return whole;
		return anyOf(
			where.atSchools(
				(inSchools) => `${column} IN (SELECT person_id FROM contact
						JOIN person AS student ON student.id = student_id WHERE student.school_id ${inSchools}
					UNION SELECT id FROM person WHERE school_id ${inSchools}
					UNION SELECT person_id FROM staff WHERE school_id ${inSchools}
					UNION SELECT person_id FROM joining JOIN school_group ON school_group.id = group_id
						WHERE made_person AND school_group.school_id ${inSchools})`
			),
			where.inSections(
				(set) => `${column} IN (SELECT contact.person_id FROM contact_now AS contact
						JOIN enrolment_now AS enrolment USING (student_id) WHERE section_id IN ${set}
					UNION SELECT student_id FROM enrolment_now AS enrolment WHERE section_id IN ${set})`
			)
		);
	};
	const conversations = (passedOnToo: boolean): Condition => {
		if (see.everywhere) return whole;
		const staffed = see.inSections(
			(set) => `(conversation.handler_id IS NULL AND conversation.section_id IN ${set})`
		);
		return anyOf(
			see.ofSchool('conversation.school_id'),
			{ sql: 'conversation.handler_id = $user', bind: me },
			staffed,
			passedOnToo
				? {
						sql: 'conversation.id IN (SELECT conversation_id FROM conversation_guest WHERE person_id = $user)',
						bind: me
					}
				: null
		);
	};
	const sent = see.ofSchool('dispatch.school_id');
	return {
		conversations: conversations(true),
		conversationsByRight: conversations(false),
		sections: write.everywhere
			? whole
			: anyOf(
					write.ofSchool('course.school_id'),
					write.inSections((set) => `section.id IN ${set}`)
				),
		groups: write.everywhere ? whole : anyOf(write.ofSchool('school_group.school_id')),
		markers: see.everywhere
			? whole
			: {
					sql: '(marker.school_id IS NULL OR marker.school_id IN (SELECT value FROM json_each($work_schools)))',
					bind: { work_schools: JSON.stringify(schoolsOf(user)) }
				},
		dispatches: see.everywhere
			? {
					sql: `(dispatch.kind != 'answer' AND (dispatch.sender_id = $user OR dispatch.state != 'draft'))`,
					bind: me
				}
			: {
					sql: `(dispatch.kind != 'answer' AND (dispatch.sender_id = $user${sent ? ` OR (${sent.sql} AND dispatch.state != 'draft')` : ''}))`,
					bind: { ...me, ...sent?.bind }
				},
		kept: see.everywhere ? whole : { sql: 'kept_audience.made_by = $user', bind: me },
		people,
		addresses: people('address.person_id'),
		log: log.everywhere ? whole : anyOf(log.ofSchool('log_line.school_id'))
	};
}
