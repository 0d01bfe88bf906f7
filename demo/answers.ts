import { randomUUID } from 'node:crypto';
import { DateTime } from 'luxon';
import { makeCourier } from '../courier/courier';
import { setClock } from '../src/lib/server/clock';
import type { Db } from '../src/lib/server/db/open';
import type { WayOut } from '../src/lib/core/roster/way';
import { aside } from '../src/lib/server/desk/replies/act';
import { answerBack, ourAnswerSchema } from '../src/lib/server/desk/replies/answer-back';
import { takeAnswers } from '../src/lib/server/desk/replies/take-answers';
import { takeTexts } from '../src/lib/server/desk/replies/take-texts';
import type { Settings } from '../src/lib/server/settings';
import { restOf, userNamed } from './history';

/** What a family of the demo's past sent back; `*` stands for its child's name. */
interface PastAnswer {
	readonly to: string;
	/** Days before the demo begins, and local time. */
	readonly at: readonly [daysAgo: number, time: string];
	readonly way: WayOut;
	readonly language: string;
	readonly words: string;
	/** What the sender answered, a quarter of an hour later. */
	readonly answer?: string;
	/** Put aside until so many days from now. */
	readonly asideDays?: number;
}

const lantern = 'Lantern Walk on the 18th';
const late = 'North Run 40 minutes late today';
const pictures = 'Picture day on Thursday';

const answers: readonly PastAnswer[] = [
	{
		to: lantern,
		at: [5, '16:10'],
		way: 'email',
		language: 'en',
		words: 'Is there room for a grandmother in a wheelchair?',
		answer: 'Yes, there is a ramp at the landing. Come ten minutes early.'
	},
	{ to: lantern, at: [5, '17:02'], way: 'email', language: 'en', words: 'We will be there!' },
	{ to: lantern, at: [5, '17:40'], way: 'email', language: 'es', words: 'Sí, iremos. Gracias' },
	{ to: lantern, at: [5, '18:05'], way: 'email', language: 'en', words: '* comes' },
	{ to: lantern, at: [4, '07:20'], way: 'email', language: 'pt', words: 'Sim, obrigada' },
	{ to: lantern, at: [4, '08:01'], way: 'email', language: 'en', words: 'Yes' },
	{ to: lantern, at: [3, '09:15'], way: 'email', language: 'vi', words: 'Vâng ạ, cảm ơn cô' },
	{
		to: lantern,
		at: [3, '12:30'],
		way: 'email',
		language: 'en',
		words: 'Could we bring the candles for the whole class? My sister makes them.',
		asideDays: 2
	},
	{
		to: 'Safety day on Thursday',
		at: [3, '15:20'],
		way: 'email',
		language: 'en',
		words: 'His boots are too small. Do you have some to lend, size 10?',
		answer: 'We do. I have put a pair aside with his name on it.'
	},
	{
		to: pictures,
		at: [1, '16:12'],
		way: 'text',
		language: 'en',
		words: 'The form is in the bag. Is it all right to pay on Friday?'
	},
	{ to: pictures, at: [1, '16:30'], way: 'text', language: 'en', words: 'Thank you' },
	{ to: pictures, at: [1, '16:44'], way: 'text', language: 'es', words: 'Gracias' },
	{ to: pictures, at: [1, '17:10'], way: 'text', language: 'en', words: 'OK, thanks' },
	{
		to: pictures,
		at: [1, '18:20'],
		way: 'email',
		language: 'en',
		words: 'Please no pictures of *, as we wrote in September. Can he wait in the library?'
	},
	{ to: late, at: [0, '07:12'], way: 'text', language: 'vi', words: 'Mấy giờ thì phà đến bến ạ?' },
	{
		to: late,
		at: [0, '07:21'],
		way: 'text',
		language: 'en',
		words: 'Is breakfast there for my daughter too? She left without.'
	},
	{ to: late, at: [0, '07:31'], way: 'text', language: 'ar', words: 'هل يوجد مكان دافئ للانتظار؟' }
];

type Reader = { id: number; personId: number; address: string; child: string };

/** Somebody who got a dispatch by a way and reads a language, and has not answered it yet. */
const readerOf = (db: Db, { to, way, language }: PastAnswer): Promise<Reader | undefined> =>
	db.one<Reader>(
		`SELECT delivery.id, delivery.person_id AS personId, address, coalesce((SELECT given_name FROM delivery_student
				JOIN person ON person.id = student_id WHERE delivery_id = delivery.id ORDER BY student_id LIMIT 1), '') AS child
		FROM delivery JOIN dispatch ON dispatch.id = dispatch_id JOIN person AS reader ON reader.id = delivery.person_id
		WHERE subject = $to AND way = $way AND delivery.state IN ('sent', 'delivered', 'read') AND reader.language = $language
			AND NOT EXISTS (SELECT 1 FROM conversation WHERE conversation.dispatch_id = dispatch.id
				AND conversation.person_id = delivery.person_id)
		ORDER BY delivery.id LIMIT 1`,
		{ to, way, language }
	);

/** Has some families of the past answer, and their senders answer some of them, as everything else of it: by the same doors, with the bench clock moved along. */
export async function answerSome(
	db: Db,
	settings: Settings,
	key: Buffer,
	{ until, zone }: { readonly until: number; readonly zone: string }
): Promise<void> {
	const courier = makeCourier(db, settings, key);
	await courier.beat();
	await courier.open();
	for (const [n, one] of answers.entries()) {
		const reader = await readerOf(db, one);
		// A smaller past has fewer of them.
		if (!reader) continue;
		const [daysAgo, time] = one.at;
		const [hour, minute] = time.split(':').map(Number) as [number, number];
		const at = DateTime.fromMillis(until, { zone })
			.startOf('day')
			.minus({ days: daysAgo })
			.set({ hour, minute })
			.toMillis();
		const words = one.words.replace('*', reader.child);
		await setClock(db, at);
		await db.write(async (tx) => {
			if (one.way === 'text')
				return takeTexts(tx, [{ from: reader.address, to: '12115550199', words }]);
			const messageId = `<answer-${n}@harbormail.example>`;
			const letter = {
				...{ fromName: '', fromAddress: reader.address, subject: `Re: ${one.to}`, text: words },
				...{ whole: '', answersTo: [], quotes: true, files: [], messageKey: messageId, messageId }
			};
			return takeAnswers(
				tx,
				key,
				[{ deliveryId: reader.id, mailbox: 'answer', answer: letter }],
				at
			);
		});
		const talk = await db.one<{ id: number; handlerId: number }>(
			`SELECT conversation.id, handler_id AS handlerId FROM answer JOIN conversation ON conversation.id = conversation_id
			ORDER BY answer.id DESC LIMIT 1`
		);
		const by = await userNamed(db, one.to.startsWith('Safety') ? 'chidi' : 'maren');
		if (one.asideDays) await aside(db, by, talk!.id, until + one.asideDays * 86_400_000);
		if (!one.answer) continue;
		await setClock(db, at + 15 * 60_000);
		const said = await answerBack(
			db,
			key,
			by,
			ourAnswerSchema.parse({
				...{ key: randomUUID(), conversations: [talk!.id], words: one.answer, atOnce: true }
			})
		);
		if (!said.ok) throw new Error(`answers: ${said.why}`);
		await restOf(db, said.dispatchId, courier);
	}
	await courier.close();
}
