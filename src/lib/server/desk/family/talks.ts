import { bodyText } from '../../../core/copy/plain';
import { wordingSchema, wordsFor } from '../../../core/copy/words';
import { groupBy } from '../../../core/group-by';
import { hasLeft } from '../../db/copy-state';
import type { Query } from '../../db/open';
import type { FamilyLine, FamilyTalk } from './types';

interface TalkRow {
	readonly id: number;
	readonly dispatchId: number | null;
	readonly subject: string;
	readonly section: string | null;
	readonly hours: string | null;
	readonly lastAt: number;
	readonly handler: string | null;
	readonly away: string | null;
}

/** Whose page it is: the person, and the conversations at an address that they share are not theirs. */
async function talkRows(db: Query, personId: number, at: number): Promise<TalkRow[]> {
	return db.all<TalkRow>(
		`SELECT conversation.id, dispatch_id AS dispatchId, conversation.subject, section.name AS section, hours,
			last_at AS lastAt, given_name || ' ' || family_name AS handler,
			(SELECT words FROM away WHERE away.person_id = handler_id AND starts_at <= $at AND ends_at > $at
				AND ended_at IS NULL ORDER BY away.id DESC LIMIT 1) AS away
		FROM conversation LEFT JOIN person ON person.id = handler_id LEFT JOIN section ON section.id = conversation.section_id
		LEFT JOIN section_talk ON section_talk.section_id = conversation.section_id
		WHERE conversation.person_id = $personId AND number IS NULL ORDER BY last_at DESC LIMIT 200`,
		{ personId, at }
	);
}

/** What somebody wrote and what they were answered, in the order of its time; what came from an address that is not theirs stands on nobody's page. */
async function linesOf(
	db: Query,
	ids: readonly number[],
	language: string
): Promise<ReadonlyMap<number, FamilyLine[]>> {
	const bind = { ids: JSON.stringify(ids) };
	const theirs = await db.all<{
		id: number;
		talkId: number;
		at: number;
		text: string;
		files: string;
	}>(
		`SELECT answer.id, conversation_id AS talkId, at, text,
			(SELECT json_group_array(json_array(answer_file.id, name, hash IS NOT NULL, why)) FROM answer_file WHERE answer_id = answer.id) AS files
		FROM answer WHERE conversation_id IN (SELECT value FROM json_each($ids)) AND known AND doubt IS NULL
			-- From a mailbox or phone that others read at too nobody knows who wrote.
			AND (way = 'inbox' OR NOT EXISTS (SELECT 1 FROM delivery_also WHERE delivery_id = answer.delivery_id))`,
		bind
	);
	const ours = await db.all<{
		id: number;
		talkId: number;
		at: number;
		who: string;
		wording: string;
		dispatchId: number;
		files: string;
	}>(
		`SELECT delivery.id, conversation_id AS talkId, coalesce(left_at, due_at) AS at, wording, dispatch.id AS dispatchId,
			given_name || ' ' || family_name AS who,
			(SELECT json_group_array(json_array(file.id, name)) FROM dispatch_file JOIN file ON file.id = file_id
				WHERE dispatch_file.dispatch_id = dispatch.id) AS files
		FROM conversation_copy JOIN delivery ON delivery.id = delivery_id JOIN dispatch ON dispatch.id = dispatch_id
		JOIN person ON person.id = sender_id
		WHERE conversation_id IN (SELECT value FROM json_each($ids)) AND ${hasLeft} AND delivery.state != 'failed'`,
		bind
	);
	const lines = [
		...theirs.map(({ talkId, id, at, text, files }): FamilyLine & { talkId: number } => ({
			talkId,
			...{ key: `a${id}`, at, who: null, words: text, dispatchId: null },
			files: (JSON.parse(files) as [number, string, number, string | null][]).map(
				([fileId, name, kept, why]) => ({ id: fileId, name, kept: kept === 1, why })
			)
		})),
		...ours.map(
			({ talkId, id, at, who, wording, dispatchId, files }): FamilyLine & { talkId: number } => {
				const said = wordsFor(wordingSchema.parse(JSON.parse(wording)), language);
				return {
					talkId,
					...{ key: `c${id}`, at, who, dispatchId, words: bodyText(said.words.body).trim() },
					files: (JSON.parse(files) as [number, string][]).map(([fileId, name]) => ({
						...{ id: fileId, name, kept: true, why: null }
					}))
				};
			}
		)
	].sort((a, b) => a.at - b.at);
	return groupBy(lines, (l) => l.talkId);
}

/** The conversations of a person as their page shows them: about dispatches, and those they began. */
export async function talksOf(
	db: Query,
	personId: number,
	language: string,
	at: number
): Promise<FamilyTalk[]> {
	const rows = await talkRows(db, personId, at);
	const lines = await linesOf(
		db,
		rows.map((r) => r.id),
		language
	);
	return rows.map(({ section, hours, ...row }) => ({
		...row,
		section: row.dispatchId === null ? section : null,
		hours: row.dispatchId === null ? (hours ?? '') : '',
		lines: (lines.get(row.id) ?? []).map(({ key, at, who, words, dispatchId, files }) => ({
			...{ key, at, who, words, dispatchId, files }
		}))
	}));
}

/** A file that came with an answer of a person, for their own page. */
export const ownAnswerFile = (
	db: Query,
	personId: number,
	id: number
): Promise<{ hash: string; name: string; type: string } | undefined> =>
	db.one(
		`SELECT hash, name, type FROM answer_file JOIN answer ON answer.id = answer_id
		JOIN conversation ON conversation.id = conversation_id
		WHERE answer_file.id = $id AND person_id = $personId AND known AND hash IS NOT NULL`,
		{ id, personId }
	);
