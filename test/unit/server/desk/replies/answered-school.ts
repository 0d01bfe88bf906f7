import { randomUUID } from 'node:crypto';
import { moveTo, now } from '../../../../../src/lib/server/clock';
import {
	answerBack,
	ourAnswerSchema,
	type Answered,
	type OurAnswer
} from '../../../../../src/lib/server/desk/replies/answer-back';
import { openedTalk } from '../../../../../src/lib/server/desk/replies/opened-talk';
import { lookSchema, repliesView } from '../../../../../src/lib/server/desk/replies/replies';
import {
	takeAnswers,
	type ReadAnswer
} from '../../../../../src/lib/server/desk/replies/take-answers';
import { takeTexts } from '../../../../../src/lib/server/desk/replies/take-texts';
import { record } from '../../../../../src/lib/server/desk/track/record';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import type { Sheet } from '../../../../../src/lib/server/desk/sheet/sheet';
import type { User } from '../../../../../src/lib/server/access/user';
import type { RepliesView } from '../../../../../src/lib/server/desk/replies/types';
import { coordinator, sheetOf, testSchoolWithOffice, type TestSchool } from '../../database';

const key = Buffer.alloc(32, 7);

/** The small school with one dispatch to both sections that has left by every way: Delfina (10) by mail, text and inbox, Bao (12) by text and inbox. */
export interface AnsweredSchool extends TestSchool {
	readonly dispatchId: number;
	/** Sends another to both sections, which leaves. */
	send(over?: Partial<Sheet> & { subject?: string }, by?: User): Promise<number>;
	/** A family answers by mail to its copy of a dispatch; `over` changes the letter. */
	mail(
		personId: number,
		text: string,
		over?: Partial<ReadAnswer>,
		dispatchId?: number
	): Promise<void>;
	text(from: string, words: string): Promise<void>;
	pass(ms: number): Promise<void>;
	/** What a user sees in Replies. */
	look(user?: User, asked?: Readonly<Record<string, string>>): Promise<RepliesView>;
	/** The conversation with a person about a dispatch. */
	talkWith(personId: number, dispatchId?: number): Promise<number>;
	opened(id: number, user?: User): ReturnType<typeof openedTalk>;
	answer(
		id: number | readonly number[],
		words: string,
		over?: Partial<OurAnswer>,
		user?: User
	): Promise<Answered>;
}

export async function answeredSchool(): Promise<AnsweredSchool> {
	const school = await testSchoolWithOffice();
	const { db } = school;
	let letters = 0;
	const send: AnsweredSchool['send'] = async (over = {}, by = coordinator) => {
		const copies = over.ways?.includes('email') === false ? 2 : 5;
		const sheet = sheetOf({ holdMinutes: 0, ...over });
		const sent = await schedule(db, key, by, sheet, copies);
		if (!sent.ok) {
			const again = await schedule(db, key, by, sheet, sent.tally.copies);
			if (!again.ok) throw new Error(JSON.stringify(again.checks));
			return left(again.dispatchId!);
		}
		return left(sent.dispatchId!);
	};
	const left = async (id: number) => {
		await db.write(async (tx) => {
			const copies = await tx.all<{ id: number }>(
				'SELECT id FROM delivery WHERE dispatch_id = $id',
				{ id }
			);
			const at = Math.round(await now(tx));
			await record(
				tx,
				copies.map((c) => ({
					...{ deliveryId: c.id, at, kind: 'accepted', source: 'courier', detail: 'taken' }
				}))
			);
		});
		return id;
	};
	const dispatchId = await send();
	const pass = async (ms: number) => void (await moveTo(db, (await now(db)) + ms));
	await pass(600_000);
	return {
		...school,
		dispatchId,
		send,
		pass,
		mail: (personId, text, over = {}, of = dispatchId) =>
			db.write(async (tx) => {
				letters += 1;
				const copy = (await tx.one<{ id: number }>(
					`SELECT id FROM delivery WHERE dispatch_id = $of AND (person_id = $personId
						OR id IN (SELECT delivery_id FROM delivery_also WHERE person_id = $personId)) AND way = 'email'`,
					{ of, personId }
				))!;
				const answer: ReadAnswer = {
					...{ fromName: '', fromAddress: 'home@harbormail.example', subject: 'Re: Boats', text },
					...{ whole: '', answersTo: [], quotes: true, files: [] },
					messageKey: `<letter-${letters}@there.example>`,
					messageId: `<letter-${letters}@there.example>`,
					...over
				};
				await takeAnswers(
					tx,
					key,
					[{ deliveryId: copy.id, mailbox: 'answer', answer }],
					Math.round(await now(tx))
				);
			}),
		text: (from, words) => db.write((tx) => takeTexts(tx, [{ from, to: '12075550100', words }])),
		look: (user = coordinator, asked = {}) => repliesView(db, user, lookSchema.parse(asked)),
		talkWith: async (personId, of = dispatchId) =>
			(await db.one<{ id: number }>(
				'SELECT id FROM conversation WHERE person_id = $personId AND dispatch_id = $of',
				{ personId, of }
			))!.id,
		opened: (id, user = coordinator) => openedTalk(db, user, id),
		answer: (ids, words, { key: own = randomUUID(), ...over } = {}, user = coordinator) =>
			answerBack(
				db,
				key,
				user,
				ourAnswerSchema.parse({ key: own, conversations: [ids].flat(), words, ...over })
			)
	};
}
