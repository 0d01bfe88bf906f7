import { at, yes, personId, studentId, since, gone, type LeavingTable } from './leaving-table';

/** Who is here, how they belong together, and where they are written to. */
export const peopleTables: readonly LeavingTable[] = [
	{
		name: 'people.csv',
		about: 'Students, guardians, other contacts and colleagues.',
		of: ['person'],
		columns: [
			['id', 'Number of the person here; every other table names them by it'],
			['kind', '“student” or “adult”'],
			['given_name', 'Given name'],
			['family_name', 'Family name'],
			['language', 'Language they read (BCP 47)'],
			['district_number', 'Number that the district gives them'],
			['school_id', 'A student’s school, as in schools.csv'],
			['grade', 'A student’s grade'],
			['inbox', 'Whether they have an inbox here'],
			since,
			gone,
			['same_as', 'Whom they have turned out to be: the id that goes on']
		],
		sql: `SELECT id, kind, given_name, family_name, language, identifier, school_id, grade_level, ${yes('has_inbox')}, ${at('since')}, ${at('gone_at')}, same_as FROM person WHERE {page}`
	},
	{
		name: 'addresses.csv',
		about: 'Where people are written to, and what they said of it.',
		of: ['address'],
		columns: [
			['id', 'Number of the address'],
			personId,
			['way', '“email” or “text”'],
			['address', 'Mail address, or number with + and country code (E.164)'],
			['consent', '“in” opted in, “out” opted out, “unknown” nobody has said'],
			['consent_at', 'When that was said'],
			['consent_how', 'How: by hand, by text, on their page, by a roster'],
			['consent_words', 'Who said it, or on which paper'],
			['failing', 'Why it does not work; empty where it does'],
			['failing_since', 'Since when']
		],
		sql: `SELECT id, person_id, way, value, consent, ${at('consent_at')}, consent_how, consent_said, failing, ${at('failing_since')} FROM address WHERE {page}`
	},
	{
		name: 'contacts.csv',
		about: 'Adults in relation to students.',
		of: ['contact'],
		columns: [
			studentId,
			['person_id', 'The adult, as in people.csv'],
			['relation', 'Mother, father, aunt, …'],
			['guardian', 'Whether they are a guardian'],
			['custody', 'Whether they have custody; empty where nobody has said'],
			['correspondence', 'Whether they are written to; empty where nobody has said'],
			['emergency', 'Whether they are called in an emergency'],
			since,
			gone
		],
		sql: `SELECT student_id, person_id, relation, ${yes('guardian')}, ${yes('custody')}, ${yes('correspondence')}, ${yes('emergency')}, ${at('since')}, ${at('gone_at')} FROM contact ORDER BY student_id, person_id`
	},
	{
		name: 'households.csv',
		about: 'People who live together.',
		of: ['household', 'household_member'],
		columns: [['household_id', 'Number of the household'], ['household', 'Its name'], personId],
		sql: `SELECT household.id, name, person_id FROM household JOIN household_member ON household_id = household.id WHERE gone_at IS NULL ORDER BY 1, 3`
	},
	{
		name: 'schools.csv',
		about: 'The schools.',
		of: ['school'],
		columns: [
			['id', 'Number of the school'],
			['name', 'Its name'],
			['short_name', 'Its short name']
		],
		sql: 'SELECT id, name, short_name FROM school ORDER BY id'
	},
	{
		name: 'sections.csv',
		about: 'Class sections with their course, term and school.',
		of: ['section', 'course', 'term'],
		columns: [
			['id', 'Number of the section'],
			['name', 'Its name'],
			['period', 'When it meets, as the roster says'],
			['course', 'The course’s title'],
			['course_code', 'The course’s code'],
			['school_id', 'The school, as in schools.csv'],
			['term', 'The term'],
			['term_starts', 'Its first day'],
			['term_ends', 'The day after its last'],
			gone
		],
		sql: `SELECT section.id, section.name, period, title, code, school_id, term.name, starts_on, ends_on, ${at('section.gone_at')}
			FROM section JOIN course ON course.id = course_id JOIN term ON term.id = term_id ORDER BY section.id`
	},
	{
		name: 'enrolments.csv',
		about: 'Students in sections.',
		of: ['enrolment'],
		columns: [['section_id', 'The section, as in sections.csv'], studentId, since, gone],
		sql: `SELECT section_id, student_id, ${at('since')}, ${at('gone_at')} FROM enrolment ORDER BY 1, 2`
	},
	{
		name: 'work.csv',
		about: 'Who teaches, works at a school, and signs in here as what.',
		of: ['section_staff', 'staff', 'sign_in', 'role'],
		columns: [
			personId,
			['what', '“teaches”, “works as”, “signs in”, “role here”'],
			['of', 'The section’s id, the job, the user name, the role'],
			['school_id', 'At which school; empty for the district'],
			['from', 'From when a role holds'],
			['until', 'Until when, or since when an account is closed']
		],
		sql: `SELECT person_id, 'teaches', CAST(section_id AS TEXT), NULL, NULL, NULL FROM section_staff
			UNION ALL SELECT person_id, 'works as', role, school_id, NULL, NULL FROM staff
			UNION ALL SELECT person_id, 'signs in', user_name, NULL, NULL, ${at('closed_at')} FROM sign_in
			UNION ALL SELECT person_id, 'role here', role || coalesce(' of section ' || section_id, ''), school_id, iif(starts_at = 0, NULL, ${at('starts_at')}), ${at('ends_at')} FROM role ORDER BY 1, 2, 3`
	},
	{
		name: 'groups.csv',
		about: 'Groups and who is in them.',
		of: ['school_group', 'group_member'],
		columns: [
			['group_id', 'Number of the group'],
			['group', 'Its name'],
			['kind', 'House, team, choir, ferry run, …'],
			['school_id', 'Its school; empty for the district'],
			personId,
			['how', 'How they came in'],
			since
		],
		sql: `SELECT school_group.id, name, kind, school_id, person_id, how, ${at('group_member.since')} FROM school_group LEFT JOIN group_member ON group_id = school_group.id
			WHERE gone_at IS NULL ORDER BY 1, 5`
	},
	{
		name: 'joined.csv',
		about: 'Who was invited to an open group, or asked to join it.',
		of: ['joining'],
		columns: [
			['id', 'Number of the line'],
			['group_id', 'The group, as in groups.csv'],
			['way', 'By which way they joined'],
			['address', 'From which address'],
			['how', 'Invited, by code, by the page'],
			['state', 'What became of it'],
			['name', 'How they call themselves'],
			['student_said', 'Which student they named'],
			['asked_at', 'When it began'],
			['joined_at', 'When they joined'],
			['ended_at', 'When they left'],
			['person_id', 'Who it is, as in people.csv']
		],
		sql: `SELECT id, group_id, way, address, how, state, name, student_said, ${at('asked_at')}, ${at('joined_at')}, ${at('ended_at')}, person_id FROM joining WHERE {page}`
	},
	{
		name: 'markers.csv',
		about: 'Markers, and of which students they say what.',
		of: ['marker', 'marked'],
		columns: [
			['marker_id', 'Number of the marker'],
			['marker', 'Its name'],
			['kind', 'What kind of value it has'],
			['school_id', 'Its school; empty for the district'],
			studentId,
			['value', 'What it says of them'],
			['how', 'How it came to be said'],
			since
		],
		sql: `SELECT marker.id, name, kind, school_id, student_id, value, how, ${at('marked.since')} FROM marker LEFT JOIN marked ON marker_id = marker.id
			WHERE gone_at IS NULL ORDER BY 1, 5`
	},
	{
		name: 'choices.csv',
		about: 'What people chose for themselves.',
		of: ['declined', 'own_time'],
		columns: [
			personId,
			['what', '“declined”, or “own times”'],
			['kind', 'Of which kind of letters they want none'],
			['way', 'By which way'],
			['zone', 'Their own time zone (IANA)'],
			['quiet_from', 'Their quiet hours, minutes after midnight'],
			['quiet_to', 'Their end'],
			['digest_at', 'When the letters of a day come in one, minutes after midnight']
		],
		sql: `SELECT person_id, 'declined', kind, way, NULL, NULL, NULL, NULL FROM declined
			UNION ALL SELECT person_id, 'own times', NULL, NULL, zone, quiet_from, quiet_to, digest_at FROM own_time ORDER BY 1, 2`
	},
	{
		name: 'person-changes.csv',
		about: 'What was changed of people, by hand or by a roster.',
		of: ['person_change', 'mended', 'made_one'],
		columns: [
			['id', 'Number of the change'],
			['at', 'When'],
			['by_id', 'Who did it, as in people.csv; empty where a file did'],
			['file', 'The roster file that did it'],
			personId,
			['field', 'What was changed'],
			['about_id', 'The student a tie is about'],
			['before', 'What stood there'],
			['after', 'What stands there since']
		],
		sql: `SELECT person_change.id, ${at('at')}, person_change.by_id, roster_file.name, person_id, field, about_id, before, after
			FROM person_change LEFT JOIN roster_file ON roster_file.id = file_id WHERE {page}`
	}
];
