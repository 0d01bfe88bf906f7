import { worksHere } from '../../access/accounts';
import { addressText } from '../../../core/roster/address-text';
import type { Reason } from '../../../core/audience/reasons';
import { reasonsText } from '../../../core/audience/reasons';
import { nameOfLanguage } from '../../../core/copy/language';
import type { DeliveryState } from '../../../core/track/evidence';
import { may, scope } from '../../access/may';
import type { Right } from '../../access/rights';
import type { User } from '../../access/user';
import type { Db, Query } from '../../db/open';
import { deliveryLines } from '../track/delivery-lines';
import { habitsOf } from '../expect/habits';
import type { PersonView, Tie, PersonAddress, PersonChange, LogEntry } from './types';
import type { Way } from '../../../core/roster/way';
import type { HouseholdRow, PersonRow, SectionRow } from '../../db/models/roster';
import { chosenWords } from './chosen-words';
import type { LeftOutRow } from '../../db/models/dispatch';

/** Which entries of a log are shown. */
export interface LogFilter {
	readonly way: Way | 'all';
	readonly state: DeliveryState | 'all' | 'left-out';
	/** Only what the user sent. */
	readonly mine: boolean;
	readonly page: number;
}
const logPerPage = 25;

/** A person with all that is known of what was sent to them, or for them where they are a student; null where the user may not see them. */
export async function personView(
	db: Db,
	user: User,
	id: number,
	filter: LogFilter
): Promise<PersonView | null> {
	const condition = scope(user).people('person.id');
	const person = await db.one<
		Pick<
			PersonRow,
			| ('id' | 'language' | 'hasInbox' | 'goneAt' | 'givenName' | 'familyName' | 'identifier')
			| ('schoolId' | 'gradeLevel')
		> & {
			works: number;
			kind: 'student' | 'adult';
			name: string;
			note: string | null;
		}
	>(
		`SELECT person.id, kind, given_name || ' ' || family_name AS name, language, has_inbox AS hasInbox, gone_at AS goneAt,
			given_name AS givenName, family_name AS familyName, identifier, school_id AS schoolId, grade_level AS gradeLevel,
			person.id IN (${worksHere}) AS works,
			CASE WHEN kind = 'student' THEN coalesce('Grade ' || grade_level, 'Student') || coalesce(', ' || school.name, '')
			ELSE (SELECT group_concat(role || coalesce(', ' || short_name, ''), '; ') FROM staff
				LEFT JOIN school ON school.id = staff.school_id WHERE staff.person_id = person.id) END AS note
		FROM person LEFT JOIN school ON school.id = person.school_id
		WHERE person.id = $id AND ${condition.sql}`,
		{ id, ...condition.bind }
	);
	if (!person) return null;
	const habits = (await habitsOf(db, [id])).get(id)!;
	const sections = await db.all<Pick<SectionRow, 'name'>>(
		`SELECT section.name FROM enrolment_now AS enrolment JOIN section ON section.id = section_id
		JOIN term ON term.id = term_id WHERE student_id = $id ORDER BY term.starts_on DESC, section.name LIMIT 12`,
		{ id }
	);
	const { goneAt, kind, name } = person;
	const hasInbox = person.hasInbox === 1;
	/** Whether a right holds for this very person: who looks after one school sees others as a teacher. */
	const holds = async (right: Right): Promise<boolean> => {
		const where = scope(user).people('person.id', right);
		const bind = { id, ...where.bind };
		return (
			(await db.one(`SELECT 1 FROM person WHERE person.id = $id AND ${where.sql}`, bind)) !==
			undefined
		);
	};
	const mayCorrect = await holds('look-after');
	// Whoever signs in here is changed by the district office alone.
	const mine = mayCorrect && (person.works === 0 || may(user, 'speak-for-district'));
	return {
		...{ id, kind, name, goneAt, hasInbox },
		own: mine
			? {
					...{ givenName: person.givenName, familyName: person.familyName, hasInbox },
					...{ language: person.language, identifier: person.identifier ?? '' },
					...{ schoolId: person.schoolId, gradeLevel: person.gradeLevel ?? '' }
				}
			: null,
		same: await sameOf(db, id),
		note: person.note ?? '',
		language: nameOfLanguage(person.language),
		sections: sections.map((s) => s.name),
		households: await householdsOf(db, id),
		ties: await tiesOf(db, id),
		addresses: await addressesOf(db, id),
		chosen: await chosenWords(db, id),
		habits:
			person.kind === 'adult' || Object.values(habits).some((h) => h.copies > 0)
				? Object.values(habits)
				: [],
		...(await logOf(db, user, id, filter)),
		seesOthers: may(user, 'see-others'),
		mayMend: mayCorrect,
		mayCorrect,
		changes: mayCorrect ? await changesOf(db, id) : [],
		mayGiveLink: await holds('give-link'),
		mayTakeOut: may(user, 'speak-for-district')
	};
}

/** Whom this person was made one with, on either side, where it was not taken back. */
const sameOf = (db: Query, id: number): Promise<PersonView['same']> =>
	db.all(
		`SELECT made_one.id, other.id AS personId, other.given_name || ' ' || other.family_name AS name, made_one.at,
			by.given_name || ' ' || by.family_name AS "by", kept_id = $id AS kept
		FROM made_one JOIN person AS other ON other.id = CASE WHEN kept_id = $id THEN other_id ELSE kept_id END
		JOIN person AS by ON by.id = by_id WHERE (kept_id = $id OR other_id = $id) AND back_at IS NULL ORDER BY made_one.id`,
		{ id }
	);

async function householdsOf(db: Query, id: number): Promise<PersonView['households']> {
	const rows = await db.all<{
		householdId: HouseholdRow['id'];
		home: HouseholdRow['name'];
		/** Null where nobody else lives there. */
		personId: PersonRow['id'] | null;
		name: string;
	}>(
		`SELECT household.id AS householdId, household.name AS home, person.id AS personId,
			given_name || ' ' || family_name AS name
		FROM household_member AS mine JOIN household ON household.id = mine.household_id
		LEFT JOIN household_member AS other ON other.household_id = mine.household_id AND other.person_id != $id
		LEFT JOIN person ON person.id = other.person_id
		WHERE mine.person_id = $id AND household.gone_at IS NULL ORDER BY household.id, kind, given_name`,
		{ id }
	);
	const homes = new Map<
		number,
		{ id: number; name: string; members: { personId: number; name: string }[] }
	>();
	for (const { householdId, home, personId, name } of rows) {
		let entry = homes.get(householdId);
		if (!entry) homes.set(householdId, (entry = { id: householdId, name: home, members: [] }));
		if (personId !== null) entry.members.push({ personId, name });
	}
	return [...homes.values()];
}

type Flag = 'guardian' | 'correspondence' | 'emergency';
type TieRow = Omit<Tie, Flag | 'custody'> &
	Readonly<Record<Flag, number>> & { readonly custody: number | null };

async function tiesOf(db: Query, id: number): Promise<Tie[]> {
	const rows = await db.all<TieRow>(
		`SELECT person.id AS personId, student_id AS studentId, contact.person_id AS adultId, relation AS word,
			guardian, custody, correspondence, emergency, given_name || ' ' || family_name AS name,
			CASE WHEN student_id = $id THEN relation ELSE 'student, as ' || relation END AS relation,
			trim(CASE WHEN guardian THEN 'guardian' ELSE '' END
				|| CASE WHEN guardian AND custody IS NULL THEN ', custody not said' WHEN guardian AND NOT custody THEN ', no custody' ELSE '' END
				|| CASE WHEN guardian AND NOT correspondence THEN ', no correspondence' ELSE '' END
				|| CASE WHEN emergency THEN ', emergency contact' ELSE '' END, ', ') AS notes
		FROM contact_now AS contact JOIN person ON person.id = CASE WHEN student_id = $id THEN person_id ELSE student_id END
		WHERE student_id = $id OR person_id = $id ORDER BY guardian DESC, family_name, given_name`,
		{ id }
	);
	return rows.map((row) => ({
		...row,
		guardian: row.guardian === 1,
		custody: row.custody === null ? null : row.custody === 1,
		correspondence: row.correspondence === 1,
		emergency: row.emergency === 1
	}));
}

/** What was changed of a person, by hand and by roster files, the newest first. */
async function changesOf(db: Query, id: number): Promise<PersonChange[]> {
	const rows = await db.all<Omit<PersonChange, 'disputed'> & { readonly disputed: number }>(
		`SELECT person_change.id, person_change.at, file_id AS fileId, field, before, after, disputed,
			coalesce(by.given_name || ' ' || by.family_name, roster_file.name,
				iif(field = 'group', 'themselves', 'a new day')) AS "by",
			about.given_name || ' ' || about.family_name AS about
		FROM person_change LEFT JOIN person AS by ON by.id = person_change.by_id
		LEFT JOIN roster_file ON roster_file.id = file_id LEFT JOIN person AS about ON about.id = about_id
		WHERE person_id = $id ORDER BY person_change.id DESC LIMIT 40`,
		{ id }
	);
	return rows.map((row) => ({ ...row, disputed: row.disputed === 1 }));
}

async function addressesOf(db: Query, id: number): Promise<PersonAddress[]> {
	const rows = await db.all<
		Omit<PersonAddress, 'mended' | 'shown'> & {
			mendedAt: number | null;
			mendedBy: string | null;
			before: string | null;
		}
	>(
		`SELECT address.id, way, value, consent, consent_at AS consentAt,
			consent_how AS consentHow, consent_said AS consentSaid, failing, failing_since AS since, mended.at AS mendedAt,
			given_name || ' ' || family_name AS mendedBy, before
		FROM address LEFT JOIN mended ON mended.id = (SELECT max(id) FROM mended WHERE address_id = address.id)
		LEFT JOIN person ON person.id = by_id WHERE address.person_id = $id ORDER BY way, address.id`,
		{ id }
	);
	return rows.map(({ mendedAt, mendedBy, before, ...row }) => ({
		...row,
		shown: addressText(row.way, row.value),
		mended:
			mendedAt === null
				? null
				: { at: mendedAt, by: mendedBy ?? '', before: addressText(row.way, before ?? '') }
	}));
}

/** The page of a person's log, newest first: what was sent to them, at an address they share, or about them as a student. */
async function logOf(
	db: Db,
	user: User,
	id: number,
	filter: LogFilter
): Promise<Pick<PersonView, 'log' | 'found'>> {
	const rights = scope(user).dispatches;
	const bind: Record<string, string | number | null> = { id, ...rights.bind };
	// Whoever has turned out to be this person has a log that is theirs.
	const one = 'IN (SELECT id FROM person WHERE id = $id OR same_as = $id)';
	const about = `SELECT id, dispatch_id, way, state FROM delivery WHERE person_id ${one}
		UNION SELECT delivery.id, dispatch_id, way, state FROM delivery_also JOIN delivery ON delivery.id = delivery_id
			WHERE delivery_also.person_id ${one}
		UNION SELECT delivery.id, dispatch_id, way, state FROM delivery_student JOIN delivery ON delivery.id = delivery_id
			WHERE student_id ${one}`;
	const wanted: string[] = [];
	if (filter.way !== 'all') {
		wanted.push('way = $way');
		bind.way = filter.way;
	}
	if (filter.state !== 'all' && filter.state !== 'left-out') {
		wanted.push('state = $state');
		bind.state = filter.state;
	}
	const copiesOf = `SELECT id, dispatch_id FROM (${about}) ${wanted.length > 0 ? `WHERE ${wanted.join(' AND ')}` : ''}`;
	const out = `SELECT dispatch_id FROM left_out WHERE person_id ${one}
		UNION SELECT dispatch_id FROM left_out_student JOIN left_out ON left_out.id = left_out_id WHERE student_id ${one}`;
	const inLog =
		filter.state === 'left-out'
			? `dispatch.id IN (${out})`
			: wanted.length > 0
				? `dispatch.id IN (SELECT dispatch_id FROM (${copiesOf}))`
				: `(dispatch.id IN (SELECT dispatch_id FROM (${copiesOf})) OR dispatch.id IN (${out}))`;
	const mine = filter.mine ? 'AND dispatch.sender_id = $me' : '';
	if (filter.mine) bind.me = user.personId;
	const where = `dispatch.state != 'draft' AND ${rights.sql} AND ${inLog} ${mine}`;
	const { n } = (await db.one<{ n: number }>(
		`SELECT count(*) AS n FROM dispatch WHERE ${where}`,
		bind
	))!;
	const rows = await db.all<Omit<LogEntry, 'copies' | 'leftOut'>>(
		`SELECT dispatch.id AS dispatchId, subject, given_name || ' ' || family_name AS sender, leaves_at AS leavesAt
		FROM dispatch JOIN person ON person.id = sender_id WHERE ${where}
		ORDER BY leaves_at DESC, dispatch.id DESC LIMIT ${logPerPage} OFFSET $offset`,
		{ ...bind, offset: (filter.page - 1) * logPerPage }
	);
	const ids = JSON.stringify(rows.map((r) => r.dispatchId));
	const copies = await db.all<{ id: number; dispatchId: number }>(
		`SELECT id, dispatch_id AS dispatchId FROM (${about})
		WHERE dispatch_id IN (SELECT value FROM json_each($ids)) ORDER BY id`,
		{ id, ids }
	);
	const lines = await deliveryLines(
		db,
		copies.map((c) => c.id)
	);
	const reasons = await db.all<
		Pick<LeftOutRow, 'dispatchId' | 'personId' | 'reasons'> & { name: string }
	>(
		`SELECT dispatch_id AS dispatchId, person_id AS personId, given_name || ' ' || family_name AS name, reasons
		FROM left_out JOIN person ON person.id = person_id
		WHERE dispatch_id IN (SELECT value FROM json_each($ids)) AND (person_id ${one}
			OR left_out.id IN (SELECT left_out_id FROM left_out_student WHERE student_id ${one}))`,
		{ id, ids }
	);
	return {
		found: n,
		log: rows.map((row) => ({
			...row,
			copies: lines.filter((l) => l.dispatchId === row.dispatchId),
			leftOut: reasons
				.filter((r) => r.dispatchId === row.dispatchId)
				.map(
					(r) =>
						`${r.personId === id ? '' : `${r.name}: `}${reasonsText(JSON.parse(r.reasons) as Reason[])}`
				)
				.join('; ')
		}))
	};
}
