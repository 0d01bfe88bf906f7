import { at, type LeavingTable } from './leaving-table';

/** What the district has set, kept and done. */
export const houseTables: readonly LeavingTable[] = [
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
		of: ['school_event', 'closure', 'closure_gone'],
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
			UNION ALL SELECT 'closure', name, starts_on, ends_on, NULL, coalesce(CAST(school_id AS TEXT), ''), NULL FROM closure
			UNION ALL SELECT 'closure', name, starts_on, ends_on, NULL, coalesce(CAST(school_id AS TEXT), ''), 'taken out' FROM closure_gone ORDER BY 3, 2`
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
		of: ['setting', 'setting_change', 'role_right', 'school_own'],
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
			UNION ALL SELECT 'is', 'own of school ' || school_id, json_object('zone', zone, 'quiet', json(quiet), 'marks', json(marks), 'openBoards', open_boards), NULL, NULL, NULL FROM school_own ORDER BY 1, 2, 5`
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
