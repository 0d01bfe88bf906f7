import type { Bind } from '../db/open';
import type { User } from './user';

/** What an act is done to, where it matters: the person whose it is, or a school (null for all of them). */
interface Things {
	readonly handle: number;
	readonly close: number | null;
	readonly 'look-after': number | null;
	readonly 'make-marker': number | null;
}

/** What not everybody may do. */
export type Act =
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
	| 'bring-roster';

/** Whether a user may do something; the one place where roles are weighed. */
export function may<A extends Act>(
	user: User,
	act: A,
	...[thing]: A extends keyof Things ? [thing: Things[A]] : []
): boolean {
	const { role } = user;
	const district = role === 'coordinator';
	switch (act as Act) {
		case 'handle':
			return district || thing === user.personId;
		case 'close':
		case 'look-after':
			return district || (role !== 'teacher' && thing !== null && thing === user.schoolId);
		case 'speak-for-district':
		case 'operate':
		case 'import-calendar':
		case 'bring-roster':
			return district;
		case 'make-marker':
			return district || (thing !== null && thing === user.schoolId);
		case 'see-others':
		case 'mend':
		case 'correct-people':
			return role !== 'teacher';
		case 'send-urgently':
			return district || role === 'principal';
		case 'give-link':
			return district || role === 'office';
	}
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
	/** `marker`: those of the district and of the user's school. */
	readonly markers: Condition;
	/** `dispatch`, but for answers to a family, which stand in their conversations: a teacher their own, an office those of its school, the coordinator all; a draft is its writer's only. */
	readonly dispatches: Condition;
	/** `conversation`: an office those of its school, the coordinator all; anybody else those about what they sent, with their sections, and those passed on to them. */
	readonly conversations: Condition;
	/** The same without those that were only passed on. */
	readonly conversationsByRight: Condition;
	/** `kept_audience`: their own, the coordinator all. */
	readonly kept: Condition;
	/** A column of person ids: an office those of its school, their families and staff, and who is on file since they joined a group of it; a teacher own students and their families. */
	people(column: string): Condition;
	/** `address`. */
	readonly addresses: Condition;
}

const whole: Condition = { sql: '1', bind: {} };

/** What a user may see. */
export function scope({ role, personId, schoolId }: User): Scope {
	const user = { user: personId };
	const school = { school: schoolId };
	const people = (column: string): Condition => {
		switch (role) {
			case 'coordinator':
				return whole;
			case 'office':
			case 'principal':
				return {
					sql: `${column} IN (SELECT person_id FROM contact
						JOIN person AS student ON student.id = student_id WHERE student.school_id = $school
					UNION SELECT id FROM person WHERE school_id = $school
					UNION SELECT person_id FROM staff WHERE school_id = $school
					UNION SELECT person_id FROM joining JOIN school_group ON school_group.id = group_id
						WHERE made_person AND school_group.school_id = $school)`,
					bind: school
				};
			case 'teacher':
				return {
					sql: `${column} IN (SELECT contact.person_id FROM contact_now AS contact
						JOIN enrolment_now AS enrolment USING (student_id) JOIN section_staff USING (section_id)
						WHERE section_staff.person_id = $user
					UNION SELECT student_id FROM enrolment_now AS enrolment JOIN section_staff USING (section_id)
						WHERE section_staff.person_id = $user)`,
					bind: user
				};
		}
	};
	const sections = (): Condition => {
		switch (role) {
			case 'coordinator':
				return whole;
			case 'office':
			case 'principal':
				return { sql: 'course.school_id = $school', bind: school };
			case 'teacher':
				return {
					sql: 'section.id IN (SELECT section_id FROM section_staff WHERE person_id = $user)',
					bind: user
				};
		}
	};
	const groups = (): Condition => {
		switch (role) {
			case 'coordinator':
				return whole;
			case 'office':
			case 'principal':
				return { sql: 'school_group.school_id = $school', bind: school };
			case 'teacher':
				return { sql: '0', bind: {} };
		}
	};
	const dispatches = (): Condition => {
		switch (role) {
			case 'coordinator':
				return {
					sql: `(dispatch.kind != 'answer' AND (dispatch.sender_id = $user OR dispatch.state != 'draft'))`,
					bind: user
				};
			case 'office':
			case 'principal':
				return {
					sql: `(dispatch.kind != 'answer' AND (dispatch.sender_id = $user OR (dispatch.school_id = $school AND dispatch.state != 'draft')))`,
					bind: { ...user, ...school }
				};
			case 'teacher':
				return { sql: `(dispatch.kind != 'answer' AND dispatch.sender_id = $user)`, bind: user };
		}
	};
	const conversations = (passedOnToo: boolean): Condition => {
		const own = `(conversation.handler_id = $user OR (conversation.handler_id IS NULL AND conversation.section_id IN
				(SELECT section_id FROM section_staff WHERE person_id = $user))
			${passedOnToo ? 'OR conversation.id IN (SELECT conversation_id FROM conversation_guest WHERE person_id = $user)' : ''})`;
		switch (role) {
			case 'coordinator':
				return whole;
			case 'office':
			case 'principal':
				return {
					sql: `(conversation.school_id = $school OR ${own})`,
					bind: { ...user, ...school }
				};
			case 'teacher':
				return { sql: own, bind: user };
		}
	};
	return {
		conversations: conversations(true),
		conversationsByRight: conversations(false),
		sections: sections(),
		groups: groups(),
		markers:
			role === 'coordinator'
				? whole
				: { sql: '(marker.school_id IS NULL OR marker.school_id = $school)', bind: school },
		dispatches: dispatches(),
		kept: role === 'coordinator' ? whole : { sql: 'kept_audience.made_by = $user', bind: user },
		people,
		addresses: people('address.person_id')
	};
}
