/** What a column holds, in words; instants are UTC (ISO 8601), days ISO dates, yes and no words. */
type ColumnSaid = readonly [name: string, means: string];

/** A table as it leaves: its columns in the order in which the question gives them. */
export interface LeavingTable {
	readonly name: string;
	readonly about: string;
	/** The tables of the database that it is made of. */
	readonly of: readonly string[];
	readonly columns: readonly ColumnSaid[];
	/** A large one is read by and by: `{page}` stands where its rows are told apart, and its first column is what they are told apart by. */
	readonly sql: string;
}

const at = (column: string): string =>
	`iif(${column} IS NULL, NULL, strftime('%Y-%m-%dT%H:%M:%SZ', ${column} / 1000, 'unixepoch'))`;
const yes = (column: string): string =>
	`CASE ${column} WHEN 1 THEN 'yes' WHEN 0 THEN 'no' ELSE NULL END`;

const personId = ['person_id', 'The person, as in people.csv'] as const;
const studentId = ['student_id', 'The student, as in people.csv'] as const;
const since = ['since', 'Since when; empty where it was so from the beginning'] as const;
const gone = ['gone_at', 'Since when it is so no more; empty where it still is'] as const;

/** Everything that is kept of the job, as tables. */
export const leavingTables: readonly LeavingTable[] = [
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
	},
	{
		name: 'dispatches.csv',
		about: 'What was said, to whom and when; the words are in letters.mbox and texts.csv.',
		of: ['dispatch', 'round'],
		columns: [
			['id', 'Number of the dispatch'],
			['kind', 'Announcement, message, urgent, or an answer to a family'],
			['state', '“draft”, “scheduled” or “sent”'],
			['subject', 'Its subject'],
			['audience', 'To whom, in words'],
			['ways', 'By which ways'],
			['sender_id', 'Who sent it, as in people.csv'],
			['school_id', 'Of which school; empty for the district'],
			['scheduled_at', 'When it was scheduled'],
			['leaves_at', 'When it was to leave'],
			['sent_at', 'When all its copies had left'],
			['ends_at', 'When it ends'],
			['round_id', 'The round it is a date of'],
			['chases', 'The dispatch it goes after'],
			['urgent_at', 'When it was made urgent'],
			['cover', 'When a student counts as covered: an adult has read it, all have, or the student']
		],
		sql: `SELECT id, kind, state, subject, audience_words, ways, sender_id, school_id, ${at('scheduled_at')}, ${at('leaves_at')}, ${at('sent_at')}, ${at('ends_at')}, round_id, chases, ${at('urgent_at')}, cover FROM dispatch WHERE {page}`
	},
	{
		name: 'copies.csv',
		about: 'Each copy for one person by one way.',
		of: ['delivery', 'digest'],
		columns: [
			['id', 'Number of the copy'],
			['dispatch_id', 'Of which dispatch'],
			personId,
			['way', 'Email, text or inbox'],
			['address', 'Where it went'],
			['state', 'Its state'],
			['state_at', 'Since when'],
			['due_at', 'When it was due'],
			['left_at', 'When it left'],
			['read_at', 'When it was first read'],
			['evidence', 'How strong the evidence of that is: none, weak, fair, strong'],
			['turn', 'In which turn it was, 0 the first'],
			['digest_id', 'The letter of the day it went in']
		],
		sql: `SELECT id, dispatch_id, person_id, way, address, state, ${at('state_at')}, ${at('due_at')}, ${at('left_at')}, ${at('read_at')}, strength, step, digest_id FROM delivery WHERE {page}`
	},
	{
		name: 'copies-for.csv',
		about: 'For which students a copy is, and who else reads at its address.',
		of: ['delivery_student', 'delivery_also'],
		columns: [
			['copy_id', 'The copy, as in copies.csv'],
			['what', '“about” a student, or “also read by” a person'],
			personId
		],
		sql: `SELECT delivery_id, 'about', student_id FROM delivery_student WHERE delivery_id > $after AND delivery_id <= $to
			UNION ALL SELECT delivery_id, 'also read by', person_id FROM delivery_also WHERE delivery_id > $after AND delivery_id <= $to ORDER BY 1, 2, 3`
	},
	{
		name: 'evidence.csv',
		about: 'What happened to each copy.',
		of: ['event'],
		columns: [
			['id', 'Number of the event'],
			['copy_id', 'The copy, as in copies.csv'],
			['at', 'When'],
			['kind', 'Handed over, accepted, delivered, failed, opened, read, …'],
			['code', 'The code that was given'],
			['detail', 'In words'],
			['source', 'Who said so'],
			['strength', 'How strong it is as evidence of reading']
		],
		sql: `SELECT id, delivery_id, ${at('at')}, kind, code, detail, source, strength FROM event WHERE {page}`
	},
	{
		name: 'left-out.csv',
		about: 'Who got no copy for whom, and why.',
		of: ['left_out', 'left_out_student', 'taken_out'],
		columns: [
			['dispatch_id', 'Of which dispatch'],
			personId,
			studentId,
			['reasons', 'Why, as codes (JSON)'],
			['reached', 'Whether another copy reaches the student all the same']
		],
		sql: `SELECT dispatch_id, person_id, student_id, reasons, ${yes('reached')} FROM left_out LEFT JOIN left_out_student ON left_out_id = left_out.id
			UNION ALL SELECT dispatch_id, NULL, student_id, '["taken out"]', NULL FROM taken_out ORDER BY 1, 2, 3`
	},
	{
		name: 'conversations.csv',
		about: 'What families and we say to each other; their words are in answers.mbox.',
		of: ['conversation', 'answer', 'answer_file', 'conversation_copy'],
		columns: [
			['id', 'Number of the conversation'],
			['dispatch_id', 'About which dispatch'],
			personId,
			['number', 'The phone, where nobody on file has it'],
			['section_id', 'With the staff of which section'],
			['school_id', 'Of which school'],
			['handler_id', 'Who answers, as in people.csv'],
			['state', 'How it stands'],
			['answers', 'How often the family wrote'],
			['ours', 'How often we did'],
			['last_at', 'When somebody wrote last']
		],
		sql: `SELECT id, dispatch_id, person_id, number, section_id, school_id, handler_id, state,
			(SELECT count(*) FROM answer WHERE conversation_id = conversation.id),
			(SELECT count(*) FROM conversation_copy WHERE conversation_id = conversation.id), ${at('last_at')} FROM conversation WHERE {page}`
	},
	{
		name: 'texts-in.csv',
		about: 'What phones sent that did something by itself: STOP, a code of a group.',
		of: ['text_in'],
		columns: [
			['id', 'Number of the text'],
			['at', 'When'],
			['from', 'From which number'],
			['words', 'What it said'],
			['command', 'What it did'],
			personId
		],
		sql: `SELECT id, ${at('at')}, from_number, words, command, person_id FROM text_in WHERE {page}`
	},
	{
		name: 'kept.csv',
		about: 'Audiences and wordings that are kept under a name.',
		of: ['kept_audience', 'kept_person', 'kept_wording'],
		columns: [
			['what', '“audience” or “wording”'],
			['name', 'Its name'],
			['form', 'A rule, or a fixed list'],
			['words', 'The audience in words'],
			['people', 'How many are on it'],
			['of', 'The audience or wording (JSON)']
		],
		sql: `SELECT 'audience', name, form, words, (SELECT count(*) FROM kept_person WHERE kept_id = kept_audience.id), audience FROM kept_audience WHERE gone_at IS NULL
			UNION ALL SELECT 'wording', name, NULL, NULL, NULL, wording FROM kept_wording ORDER BY 1, 2`
	},
	{
		name: 'calendar.csv',
		about: 'Events and days without school; also as calendars beside.',
		of: ['school_event', 'closure'],
		columns: [
			['what', '“event” or “closure”'],
			['name', 'What it is'],
			['starts', 'Its first day or moment, as clocks at school show it'],
			['ends', 'Its end; of days, the day after the last'],
			['place', 'Where'],
			['schools', 'Ids of the schools, as in schools.csv; empty for all'],
			['state', 'Whether it was called off']
		],
		sql: `SELECT 'event', title, starts_local, ends_local, place, school_ids, state FROM school_event
			UNION ALL SELECT 'closure', name, starts_on, ends_on, NULL, coalesce(CAST(school_id AS TEXT), ''), NULL FROM closure ORDER BY 3, 2`
	},
	{
		name: 'files.csv',
		about:
			'Files that went with letters or came with answers; they lie in files/ under their hash.',
		of: ['file', 'dispatch_file'],
		columns: [
			['what', '“letter” or “answer”'],
			['of_id', 'The dispatch’s or the conversation’s id'],
			['name', 'Its name'],
			['type', 'Its type (media type)'],
			['bytes', 'Its size'],
			['sha256', 'Its hash, which is its name in files/']
		],
		sql: `SELECT 'letter', dispatch_id, name, type, bytes, hash FROM file LEFT JOIN dispatch_file ON file_id = file.id
			UNION ALL SELECT 'answer', conversation_id, name, type, bytes, hash FROM answer_file JOIN answer ON answer.id = answer_id WHERE hash IS NOT NULL ORDER BY 1, 2, 3`
	},
	{
		name: 'settings.csv',
		about: 'What the district decides for itself, and how it was changed.',
		of: ['setting', 'setting_change', 'role_right', 'school_quiet'],
		columns: [
			['what', '“is”, “was changed” or “role can”'],
			['name', 'The setting, its chapter, or the role'],
			['value', 'Its value (JSON), or what the role can do'],
			['before', 'What stood there (JSON)'],
			['at', 'When it was changed'],
			['by_id', 'By whom, as in people.csv']
		],
		sql: `SELECT 'is', 'district.' || key, json_quote(value), NULL, NULL, NULL FROM (SELECT each.key, each.value FROM setting, json_each(setting.value) AS each WHERE setting.key = 'district')
			UNION ALL SELECT 'was changed', chapter, after, before, ${at('at')}, by_id FROM setting_change
			UNION ALL SELECT 'role can', role, can, NULL, NULL, NULL FROM role_right
			UNION ALL SELECT 'is', 'quiet hours of school ' || school_id, quiet, NULL, NULL, NULL FROM school_quiet ORDER BY 1, 2, 5`
	},
	{
		name: 'log.csv',
		about: 'What was done, each line bound to the one before.',
		of: ['log_line'],
		columns: [
			['id', 'Number of the line'],
			['at', 'When'],
			['by_id', 'Who, as in people.csv; empty where it was done by itself'],
			['act', 'What, as a code'],
			['thing', 'To what'],
			['thing_id', 'Its id'],
			['school_id', 'Of which school'],
			['before', 'What it was (JSON)'],
			['after', 'What it is since (JSON)'],
			['bound', 'Hash of this line and the one before (SHA-256)']
		],
		sql: `SELECT id, ${at('at')}, by_id, act, thing, thing_id, school_id, before, after, bound FROM log_line WHERE {page}`
	}
];

/** Tables of the database that do not leave, and why: what is a key or a secret, and what is work in hand. */
export const staysHere: readonly (readonly [why: string, tables: readonly string[]])[] = [
	[
		'Keys, links and how somebody signs in: worth nothing elsewhere, and dangerous there.',
		[
			...['session', 'account_link', 'family_link', 'link_end', 'second_factor', 'recovery_code'],
			...['seen_place', 'outside_name']
		]
	],
	[
		'How rosters are read and put together: the rosters themselves come from the student system.',
		[
			...[
				'roster_source',
				'roster_file',
				'roster_line',
				'roster_undo',
				'roster_change',
				'known_as'
			],
			...['list_heading', 'same_or_other']
		]
	],
	[
		'Work in hand, and what is worked out anew whenever it is asked for.',
		[
			...[
				'dispatch_student',
				'dispatch_mark',
				'standing',
				'gained',
				'proof',
				'notice',
				'auto_note'
			],
			...['returned_mail', 'text_part', 'away', 'away_told', 'live_follow', 'section_talk'],
			...['conversation_act', 'conversation_guest', 'leaving']
		]
	],
	['How this installation runs.', ['clock', 'courier', 'courier_way', 'mark', 'migration']]
];
