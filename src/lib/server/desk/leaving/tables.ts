import { houseTables } from './house-tables';
import type { LeavingTable } from './leaving-table';
import { peopleTables } from './people-tables';
import { sendingTables } from './sending-tables';

/** Everything that is kept of the job, as tables. */
export const leavingTables: readonly LeavingTable[] = [
	...peopleTables,
	...sendingTables,
	...houseTables
];

/** What letters say as texts: made with them, and not read from the database. */
export const textsTable: Omit<LeavingTable, 'of' | 'sql'> = {
	name: 'texts.csv',
	about: 'What each dispatch said by text, in each language, as one of its readers got it.',
	columns: [
		['dispatch_id', 'Of which dispatch, as in dispatches.csv'],
		['language', 'In which language (BCP 47)'],
		['words', 'What the text said'],
		['copies', 'How many texts said so']
	]
};

/** Tables of the database that do not leave, and why: what is a key or a secret, and what is work in hand. */
export const staysHere: readonly (readonly [why: string, tables: readonly string[]])[] = [
	[
		'Keys, links and how somebody signs in: worth nothing elsewhere, and dangerous there.',
		[
			...['session', 'account_link', 'family_link', 'link_end', 'second_factor', 'recovery_code'],
			...['board_link', 'invitation_link'],
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
			...['conversation_act', 'conversation_guest', 'leaving'],
			...['feed', 'feed_entry', 'feed_look', 'feed_tried'],
			...['reading_model', 'habit', 'forecast_chance']
		]
	],
	['How this installation runs.', ['clock', 'courier', 'courier_way', 'mark', 'migration']]
];
