import { at, yes, personId, studentId, type LeavingTable } from './leaving-table';

/** What was said to whom, what became of it, and what came back. */
export const sendingTables: readonly LeavingTable[] = [
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
		name: 'boards.csv',
		about:
			'On which boards each announcement stands, what they say since somebody changed it, and who read it there.',
		of: ['board_place', 'board_wording', 'board_read'],
		columns: [
			['dispatch_id', 'The announcement, as in dispatches.csv'],
			['what', '“stands on”, “was changed” or “was read”'],
			['place', 'On which board: a kind and its number, 0 the district'],
			['person_id', 'Who changed or read it, as in people.csv'],
			['at', 'When'],
			['says', 'What it says since then (JSON)']
		],
		sql: `SELECT dispatch_id, 'stands on', kind || ' ' || place_id, NULL, NULL, NULL FROM board_place WHERE dispatch_id > $after AND dispatch_id <= $to
			UNION ALL SELECT dispatch_id, 'was changed', NULL, by_id, ${at('at')}, wording FROM board_wording WHERE dispatch_id > $after AND dispatch_id <= $to
			UNION ALL SELECT dispatch_id, 'was read', NULL, person_id, ${at('at')}, NULL FROM board_read WHERE dispatch_id > $after AND dispatch_id <= $to
			ORDER BY 1, 2, 3, 4`
	},
	{
		name: 'coming.csv',
		about: 'What everybody who was invited said, as it holds, and each thing that was said before.',
		of: ['coming', 'coming_said', 'coming_guest'],
		columns: [
			['dispatch_id', 'The invitation, as in dispatches.csv'],
			['household_id', 'Which household it is of, as in households.csv'],
			['person_id', 'Or which person, as in people.csv'],
			['guest', 'Or who from outside: name and address'],
			['at', 'When it was said'],
			[
				'how',
				'On the page, by text, by the link for anybody, put down by staff, or moved up from the line'
			],
			['by_id', 'Who said it'],
			['comes', 'Whether they come'],
			['people', 'How many'],
			['students', 'How many of them are students, where that was said'],
			['slot', 'To which of the times, 0 where there is one for all'],
			['seated', 'Whether they had their places'],
			['holds', 'Whether it is what holds now']
		],
		sql: `SELECT dispatch_id, household_id, person_id, (SELECT name || ' ' || address FROM coming_guest WHERE coming_guest.id = guest_id),
				${at('said.at')}, said.how, said.by_id, ${yes('said.comes')}, said.people, said.students, said.slot, ${yes('said.seated')},
				${yes('said.id = (SELECT max(id) FROM coming_said AS newest WHERE newest.coming_id = coming.id)')}
			FROM coming JOIN coming_said AS said ON coming_id = coming.id
			UNION ALL SELECT dispatch_id, NULL, NULL, name || ' ' || address, ${at('asked_at')}, 'not confirmed', NULL, NULL, NULL, NULL, NULL, NULL, NULL
			FROM coming_guest WHERE confirmed_at IS NULL ORDER BY 1, 2, 3, 4, 5`
	},
	{
		name: 'spoken.csv',
		about: 'That somebody spoke to a family which nothing had reached.',
		of: ['spoken_to'],
		columns: [
			['household_id', 'Which household, as in households.csv'],
			['student_id', 'Or which student who lives in none, as in people.csv'],
			['at', 'When'],
			['by_id', 'Who spoke to them, as in people.csv'],
			['words', 'What was written down of it']
		],
		sql: `SELECT household_id, student_id, ${at('at')}, by_id, words FROM spoken_to ORDER BY id`
	},
	{
		name: 'forecasts.csv',
		about: 'What was to be expected of each dispatch before it was read, and what came.',
		of: ['forecast'],
		columns: [
			['dispatch_id', 'Which, as in dispatches.csv'],
			['made_at', 'When it was said'],
			['by_at', 'By when'],
			['students', 'Of how many'],
			['expected', 'How many were to be expected on average'],
			['low', 'Between how many in nine of ten such cases'],
			['high', 'and how many'],
			['covered', 'How many were, once that time had come']
		],
		sql: `SELECT dispatch_id, ${at('made_at')}, ${at('by_at')}, students, round(expected, 2), low, high, covered FROM forecast
			WHERE dispatch_id > $after AND dispatch_id <= $to ORDER BY dispatch_id`
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
			['digest_id', 'The letter of the day it went in'],
			['parts', 'Of how many parts a text was, where that was kept']
		],
		sql: `SELECT id, dispatch_id, person_id, way, address, state, ${at('state_at')}, ${at('due_at')}, ${at('left_at')}, ${at('read_at')}, strength, step, digest_id, parts FROM delivery WHERE {page}`
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
	}
];
