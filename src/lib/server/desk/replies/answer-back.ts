import { isAllowed } from '../../access/may';
import { writeDown } from '../../access/log';
import { z } from 'zod';
import type { Audience } from '../../../core/audience/audience';
import { docOf } from '../../../core/copy/doc';
import { languageTagSchema, type Wording } from '../../../core/copy/words';
import type { TimedManifest } from '../../../core/plan/times';
import { settled } from '../../../core/talk/conversation';
import { waySchema } from '../../../core/roster/way-schema';
import { isStill, type User } from '../../access/user';
import { now } from '../../clock';
import type { Db, Query } from '../../db/open';
import { conversationCopy } from '../../db/models/talk';
import { planRows } from '../send/plan-rows';
import { writePlan } from '../send/write-plan';
import { usableFiles } from '../sheet/files';
import { letterSchema, sheetWith } from '../sheet/sheet';
import { putDispatch, sheetValues } from '../sheet/sheet-row';
import { dueOf, targetsOf, type Target } from './answer-targets';
import { followLater } from './live-follow';
import { holdSeconds } from './types';

/** What is answered, as the page sends it. */
export const ourAnswerSchema = z.object({
	/** Made by the page for each answer: sent twice it is one. */
	key: z.uuid(),
	conversations: z
		.array(z.number().int().positive())
		.min(1)
		.max(2000, '2,000 at most are answered at once.'),
	words: z
		.string()
		.trim()
		.min(1, 'Write what you answer first.')
		.max(10_000, 'An answer has 10,000 letters at most.'),
	/** The same in another language, as it was drafted and looked over. */
	translated: z
		.object({ language: languageTagSchema, words: z.string().trim().min(1).max(20_000) })
		.nullable()
		.default(null),
	/** By which way; null for the one by which each wrote last. */
	way: waySchema.nullable().default(null),
	files: z
		.array(z.number().int().positive())
		.max(10, 'An answer has ten files at most.')
		.default([]),
	/** Whether it leaves at once, without the short hold. */
	atOnce: z.boolean().default(false),
	/** Said while the family is there: it stands on their page at once, and goes by their way where they have not seen it. */
	live: z.boolean().default(false)
});
export type OurAnswer = z.infer<typeof ourAnswerSchema>;

export type Answered =
	| {
			readonly ok: true;
			readonly dispatchId: number;
			/** How many copies, and when the first and the last leave (instants, ms). */
			readonly copies: number;
			readonly firstAt: number;
			readonly lastAt: number;
			/** Conversations that were not answered, since no way works. */
			readonly without: number;
	  }
	| { readonly ok: false; readonly why: string };

/** Words as they are, whatever they look like: no field begins in them. */
const literal = (words: string): string => words.replace(/\{(?=\{)/g, '{ ');

/** "Re: Boats", once (RFC 5322 section 3.6.5). */
const subjectOf = (subject: string): string => (/^re:/i.test(subject) ? subject : `Re: ${subject}`);

/** An audience that names nobody: an answer goes to whom it answers, and is never worked out. */
const nobody: Audience = { version: 2, lines: [], byHand: [] };

function wordingOf(subject: string, { words, translated }: OurAnswer): Wording {
	const said = (text: string) => ({
		subject,
		body: docOf(literal(text)),
		// As a text it is what was written, and no more.
		own: { text: { text: literal(text), link: false } }
	});
	const original = said(words);
	return {
		language: 'en',
		words: original,
		variants:
			translated && translated.language !== 'en'
				? [
						{
							...{ language: translated.language, words: said(translated.words) },
							...{ checked: true, basis: original, off: false }
						}
					]
				: []
	};
}

/** The copies of an answer, as a manifest of its own: to whom it answers, and to nobody else. */
const manifestOf = (
	targets: readonly Target[],
	due: readonly number[],
	from: number
): TimedManifest => ({
	...{
		students: [],
		takenOut: [],
		outByLine: [],
		sectionOf: new Map(),
		byLine: [],
		recipients: []
	},
	...{ informed: [], notByWay: [], leftOut: [], leavesAt: from },
	copies: targets.map(({ personId, students, back }) => ({
		...{ personId, way: back.way, address: back.address, alsoFor: [], step: 0, overWish: false },
		studentIds: JSON.parse(students) as number[]
	})),
	dueAt: due,
	quietUntil: due.map((at) => (at > from ? at : null)),
	// Whoever has written is answered at once.
	inDigest: due.map(() => false)
});

/**
 * Answers conversations, each with a copy of its own, by the way its family used or by one that was chosen. What is
 * answered is a dispatch like any other: held for a short while, sent once, with the same evidence; its
 * conversations are settled by it. In one transaction; sent twice (a second tap, a request that is repeated) it is one.
 */
export async function answerBack(
	db: Db,
	key: Buffer,
	user: User,
	said: OurAnswer
): Promise<Answered> {
	return db.write((tx) => answerIn(tx, key, user, said));
}

/** {@link answerBack} in the caller's transaction. */
export async function answerIn(
	tx: Query,
	key: Buffer,
	user: User,
	said: OurAnswer
): Promise<Answered> {
	const no = (why: string): Answered => ({ ok: false, why });
	const again = await tx.one<{
		id: number;
		senderId: number;
		copies: number;
		first: number;
		last: number;
	}>(
		`SELECT dispatch.id, sender_id AS senderId, count(*) AS copies, min(due_at) AS first, max(due_at) AS last
		FROM dispatch JOIN delivery ON dispatch_id = dispatch.id WHERE sheet_key = $key GROUP BY dispatch.id`,
		{ key: said.key }
	);
	if (again) {
		const { id: dispatchId, copies, first: firstAt, last: lastAt } = again;
		return again.senderId === user.personId
			? { ok: true, dispatchId, copies, firstAt, lastAt, without: 0 }
			: no('This answer belongs to somebody else. Load the page again.');
	}
	if (!isAllowed(user, 'answer'))
		return no('You may read what families write and not answer. Pass it on to somebody who may.');
	if (!(await isStill(tx, user)))
		return no('What you may do has changed meanwhile. Load the page again.');
	const files = await usableFiles(tx, user, said.files);
	if (files.length < new Set(said.files).size)
		return no('A file is not yours to send, or is gone. Put it in again.');
	const at = Math.round(await now(tx));
	const { targets, without } = await targetsOf(tx, user, said, at);
	if (targets.length === 0)
		return no(
			said.way === null
				? 'No way works by which this can be answered. Call, or put an address on file.'
				: 'This way does not work here (any more). Choose another one.'
		);
	const from = at + (said.atOnce ? 0 : holdSeconds * 1_000);
	const due = await dueOf(tx, targets, from);
	const manifest = manifestOf(targets, due, from);
	const subjects = new Set(targets.map((t) => t.subject));
	const subject = subjectOf(subjects.size === 1 ? [...subjects][0]! : '');
	const sheet = sheetWith({
		sheetKey: said.key,
		audience: nobody,
		ways: [...new Set(targets.map((t) => t.back.way))],
		wording: wordingOf(subject, said),
		letter: letterSchema.parse({ files: files.map((f) => ({ fileId: f.id, mode: 'attach' })) })
	});
	const firstAt = Math.min(...due);
	const dispatchId = await putDispatch(tx, null, {
		sheetKey: said.key,
		...sheetValues(sheet, ''),
		...{ kind: 'answer', state: 'scheduled', senderId: user.personId, holdMinutes: 0 },
		...{ schoolId: targets[0]!.schoolId, changedAt: at, scheduledAt: at, leavesAt: firstAt },
		settled: 1,
		// No account is made of it: what became of it stands in the conversation.
		reportedAt: at
	});
	await tx.run(
		`INSERT INTO dispatch_file (dispatch_id, file_id) SELECT $id, value FROM json_each($files)`,
		{ id: dispatchId, files: JSON.stringify(files.map((f) => f.id)) }
	);
	await writePlan(tx, dispatchId, planRows(key, manifest, { time: at, held: from > at }), at);
	await standsAnswered(tx, dispatchId, targets, at);
	await writeDown(tx, {
		...{ act: 'answered', by: user, to: ['dispatch', dispatchId], schoolId: targets[0]!.schoolId },
		after: { conversations: targets.map((t) => t.id), copies: targets.length }
	});
	if (said.live) {
		for (const { id } of targets)
			await followLater(tx, { conversationId: id, senderId: user.personId, at });
	}
	return {
		...{ ok: true, dispatchId, copies: targets.length, without },
		...{ firstAt, lastAt: Math.max(...due) }
	};
}

/** Puts the copies into their conversations, and settles these. */
async function standsAnswered(
	tx: Query,
	dispatchId: number,
	targets: readonly Target[],
	at: number
): Promise<void> {
	const copies = await tx.all<{ id: number; personId: number }>(
		'SELECT id, person_id AS personId FROM delivery WHERE dispatch_id = $dispatchId',
		{ dispatchId }
	);
	const talkOf = new Map(targets.map((t) => [t.personId, t.id]));
	await tx
		.rows(conversationCopy)
		.addMany(
			copies.map(({ id, personId }) => ({ deliveryId: id, conversationId: talkOf.get(personId)! }))
		);
	await tx.run(
		`UPDATE conversation SET state = $state, state_at = $at, aside_until = NULL, since = NULL, unread = 0, alike = NULL,
			last_at = $at WHERE id IN (SELECT value FROM json_each($ids))`,
		{ state: settled.state, at, ids: JSON.stringify(targets.map((t) => t.id)) }
	);
}
