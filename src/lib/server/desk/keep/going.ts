import { wordingOf } from '../../../core/copy/words';

/** What stands where the words of a letter were. */
export const wordsGone = 'Words no longer kept';
const wordsGoneBody = 'This letter is so old that its words are no longer kept.';
/** What stands where an answer was. */
const answerGone = 'No longer kept';

/** The rows in hand. */
export const these = '(SELECT value FROM json_each($ids))';
/** What is done to the rows in hand; with what else the statement names. */
type Done = string | readonly [sql: string, bind: Readonly<Record<string, string>>];

/** Sent, over, and with nothing on its way; `$limit` is the instant. */
const over = `dispatch.state = 'sent' AND subject != '${wordsGone}'
	AND max(coalesce(sent_at, 0), coalesce(ends_at, 0), coalesce(last_due, 0), coalesce(leaves_at, 0)) < $limit
	AND NOT EXISTS (SELECT 1 FROM delivery WHERE dispatch_id = dispatch.id AND state IN ('held', 'planned'))`;
/** An answer of ours stays as long as its conversation waits for somebody. */
const ofSettled = `NOT EXISTS (SELECT 1 FROM delivery JOIN conversation_copy ON delivery_id = delivery.id
	JOIN conversation ON conversation.id = conversation_id WHERE delivery.dispatch_id = dispatch.id AND conversation.state != 'settled')`;
const emptied = {
	subject: wordsGone,
	body: wordsGoneBody,
	wording: JSON.stringify(wordingOf(wordsGone, wordsGoneBody))
};
/** Takes the words out of dispatches, and what they show or hand out. */
const emptyDispatches: readonly Done[] = [
	[
		`UPDATE dispatch SET subject = $subject, body = $body, wording = $wording, letter = '{}' WHERE id IN ${these}`,
		emptied
	],
	`DELETE FROM dispatch_file WHERE dispatch_id IN ${these}`,
	// What says nothing any more stands on no board.
	`DELETE FROM board_wording WHERE dispatch_id IN ${these}`,
	`DELETE FROM board_place WHERE dispatch_id IN ${these}`
];

/** One kind of thing that goes: what is asked for its rows, and what becomes of them. */
export interface Going {
	readonly what: 'letters' | 'evidence' | 'addresses' | 'answers';
	/** Rows of which table, as a condition; `$limit` is the instant. */
	readonly table: string;
	readonly past: string;
	/** What is done to some of them; `$ids` is their ids, as JSON. */
	readonly done: readonly Done[];
	/** Whether it is told by its number; what only goes along with others is not. */
	readonly told: boolean;
}

export const going: readonly Going[] = [
	{
		...{ what: 'letters', table: 'dispatch', told: true },
		...{ past: `dispatch.kind != 'answer' AND ${over}`, done: emptyDispatches }
	},
	{
		...{ what: 'answers', table: 'dispatch', told: false },
		...{ past: `dispatch.kind = 'answer' AND ${over} AND ${ofSettled}`, done: emptyDispatches }
	},
	{
		...{ what: 'letters', table: 'standing', told: false },
		past: `coalesce(ended_at, ends_at) < $limit AND subject != '${wordsGone}'`,
		done: [
			[
				`UPDATE standing SET subject = $subject, sheet = json_set(sheet, '$.wording', json($wording), '$.letter', json('{}'))
				WHERE id IN ${these}`,
				{ subject: emptied.subject, wording: emptied.wording }
			]
		]
	},
	{
		...{ what: 'letters', table: 'proof', told: false },
		...{
			past: `made_at < $limit AND state != 'waiting'`,
			done: [`DELETE FROM proof WHERE id IN ${these}`]
		}
	},
	{
		...{ what: 'letters', table: 'notice', told: false },
		past: `made_at < $limit AND state != 'waiting'`,
		done: [`DELETE FROM notice WHERE id IN ${these}`]
	},
	{
		...{ what: 'evidence', table: 'event', told: true },
		past: `at < $limit AND (detail != '' OR said IS NOT NULL OR visitor IS NOT NULL OR about IS NOT NULL)`,
		done: [
			`UPDATE event SET detail = '', said = NULL, visitor = NULL, about = NULL WHERE id IN ${these}`
		]
	},
	{
		...{ what: 'evidence', table: 'returned_mail', told: false },
		...{ past: 'at < $limit', done: [`DELETE FROM returned_mail WHERE id IN ${these}`] }
	},
	{
		...{ what: 'evidence', table: 'board_link', told: false },
		...{ past: 'ended_at < $limit', done: [`DELETE FROM board_link WHERE id IN ${these}`] }
	},
	{
		...{ what: 'addresses', table: 'delivery', told: true },
		past: `state_at < $limit AND coalesce(left_at, 0) < $limit AND address IS NOT NULL AND state NOT IN ('held', 'planned')`,
		done: [`UPDATE delivery SET address = NULL WHERE id IN ${these}`]
	},
	{
		...{ what: 'addresses', table: 'coming_guest', told: false },
		past: `asked_at < $limit AND address != ''`,
		done: [
			`UPDATE coming_guest SET name = '', address = '', address_key = 'gone ' || id WHERE id IN ${these}`
		]
	},
	{
		...{ what: 'addresses', table: 'digest', told: false },
		past: `at < $limit AND address != ''`,
		done: [`UPDATE digest SET address = '' WHERE id IN ${these}`]
	},
	{
		...{ what: 'addresses', table: 'event', told: false },
		past: 'at < $limit AND (visitor IS NOT NULL OR about IS NOT NULL)',
		done: [`UPDATE event SET visitor = NULL, about = NULL WHERE id IN ${these}`]
	},
	{
		...{ what: 'addresses', table: 'answer', told: false },
		past: `at < $limit AND from_address != ''`,
		done: [`UPDATE answer SET from_address = '' WHERE id IN ${these}`]
	},
	{
		...{ what: 'addresses', table: 'text_in', told: false },
		past: `at < $limit AND from_number != ''`,
		done: [`UPDATE text_in SET from_number = '', to_number = '' WHERE id IN ${these}`]
	},
	{
		...{ what: 'addresses', table: 'auto_note', told: false },
		past: `made_at < $limit AND state != 'waiting' AND address != ''`,
		done: [`UPDATE auto_note SET address = '', name = '' WHERE id IN ${these}`]
	},
	{
		...{ what: 'answers', table: 'auto_note', told: false },
		past: `made_at < $limit AND state != 'waiting' AND words != ''`,
		done: [`UPDATE auto_note SET words = '' WHERE id IN ${these}`]
	},
	{
		...{ what: 'answers', table: 'answer', told: true },
		past: `at < $limit AND text != '${answerGone}'
			AND conversation_id IN (SELECT id FROM conversation WHERE conversation.state = 'settled')`,
		done: [
			`UPDATE answer SET subject = '', text = '${answerGone}', whole = '', translated = NULL, translated_to = NULL,
				from_name = '' WHERE id IN ${these}`,
			`DELETE FROM answer_file WHERE answer_id IN ${these}`
		]
	},
	{
		...{ what: 'answers', table: 'conversation', told: false },
		past: `last_at < $limit AND state = 'settled' AND subject NOT IN ('', '${answerGone}')`,
		done: [`UPDATE conversation SET subject = '${answerGone}' WHERE id IN ${these}`]
	},
	{
		...{ what: 'answers', table: 'text_in', told: false },
		past: `at < $limit AND words != ''`,
		done: [`UPDATE text_in SET words = '' WHERE id IN ${these}`]
	}
];
