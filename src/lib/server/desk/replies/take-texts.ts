import { randomUUID } from 'node:crypto';
import { textIn, type DeliveryRow } from '../../db/models/delivery';
import { keptNumber } from '../../../core/format/phone';
import { likenessOf } from '../../../core/talk/alike';
import { textCommand } from '../../../core/talk/keyword';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import { ownChanged } from '../../db/roster';
import type { Query } from '../../db/open';
import type { IncomingText } from '../../gateway/text';
import { gatherPart, lateTexts } from './gather-parts';
import { comingByText } from '../invitations/by-text';
import { joinByText, leaveByText } from '../joining/by-text';
import { stopPending } from '../track/stop-pending';
import { person } from '../../db/models/roster';
import { saidStop } from '../../db/said-stop';
import { textAddressesOf, type TextAddress } from '../../db/text-addresses';
import { sayByItself } from './say-by-itself';
import { answersCame } from './answers-came';
import type { CameIn } from './put-answers';

/** The same words from the same phone so soon again are the exchange asking once more, ms. */
const sameMs = 60_000;

/** So long our question whether texts are wanted can be answered, ms. */
const askedMs = 86_400_000;

/** Longer is no text that anybody types on a phone. */
const mostWords = 10_000;

/** A phone's number in E.164, as far as it is one. */
const phoneOf = (from: string): string =>
	keptNumber(from.startsWith('+') ? from : `+${from}`) ?? from;

/** A whole text, as it is taken. */
type Text = Pick<IncomingText, 'from' | 'to' | 'words'>;

/**
 * Takes texts that came in from phones. Of a longer one the parts are kept until all are there (`gather-parts`).
 * One that says whether somebody comes is taken as that (`invitations/by-text`). One that is the code of an open group, or answers our question, brings its sender in (`joining/by-text`).
 * STOP and START are obeyed at once: consent changes for everyone who has the number on file, and
 * what still waits to leave for it does not leave. Any other is an answer to what its number was sent last, or
 * waits apart where nobody knows the number. In the caller's transaction.
 */
export async function takeTexts(tx: Query, texts: readonly IncomingText[]): Promise<void> {
	const answers: CameIn[] = [];
	const at = Math.round(await now(tx));
	for (const { from: phone, to, words, part } of texts) {
		const text = { from: phoneOf(phone), to, words };
		const whole = part ? await gatherPart(tx, text, part, at) : [text];
		for (const one of whole) await sort(tx, one, at, answers);
	}
	await answersCame(tx, answers, at);
}

/** Takes what there is of texts whose other parts come no more; how many there were. In the caller's transaction. */
export async function takeLateTexts(tx: Query): Promise<number> {
	const at = Math.round(await now(tx));
	const texts = await lateTexts(tx, at);
	const answers: CameIn[] = [];
	for (const text of texts) await sort(tx, text, at, answers);
	await answersCame(tx, answers, at);
	return texts.length;
}

/** Whether the exchange, or the same group, has brought this a moment ago. */
async function isAgain(
	tx: Query,
	{ from, words }: Text,
	at: number,
	before: readonly CameIn[]
): Promise<boolean> {
	if (before.some((b) => b.fromAddress === from && b.text === words)) return true;
	return (
		(await tx.one(
			`SELECT 1 FROM text_in WHERE from_number = $from AND words = $words AND at > $since
			UNION ALL SELECT 1 FROM answer WHERE way = 'text' AND from_address = $from AND text = $words AND at > $since`,
			{ from, words, since: at - sameMs }
		)) !== undefined
	);
}

/** The copy that a text answers: the last one that went to its number by text, within the days that are set. */
const lastTo = async (
	tx: Query,
	from: string,
	at: number
): Promise<Pick<DeliveryRow, 'id' | 'personId'> | undefined> =>
	tx.one(
		`SELECT id, person_id AS personId FROM delivery WHERE address = $from COLLATE NOCASE AND way = 'text'
			AND left_at > $since AND left_at <= $at ORDER BY left_at DESC, id DESC LIMIT 1`,
		{ from, at, since: at - (await readDistrict(tx)).textAnswerDays * 86_400_000 }
	);

/** Does what a text asks for by itself; what is an answer is put to the others. */
async function sort(tx: Query, all: Text, at: number, answers: CameIn[]): Promise<void> {
	const text = { ...all, words: all.words.slice(0, mostWords) };
	const { from, to, words } = text;
	if (await isAgain(tx, text, at, answers)) return;
	const delivery = await lastTo(tx, from, at);
	const addresses = await textAddressesOf(tx, from);
	const { textWords, language } = await readDistrict(tx);
	const command =
		textCommand(words, textWords) ??
		(await answersAskTexts(tx, from, words, at)) ??
		(delivery && (await comingByText(tx, { from, words, delivery }, at)) ? 'coming' : null) ??
		(await joinByText(tx, { from, words }, at));
	if (command === null) {
		const owners = [...new Set(addresses.map((a) => a.personId))];
		const personId = owners.length === 1 ? owners[0]! : null;
		const known = delivery !== undefined || personId !== null;
		answers.push({
			about: delivery ? { deliveryId: delivery.id } : { number: from, personId },
			...{ way: 'text', fromName: '', fromAddress: from, known },
			...{ subject: '', text: words, whole: '', messageId: null, doubt: null, files: [] },
			// Texts have no name of their own, and two can be taken in the same millisecond: `isAgain` tells what came twice.
			messageKey: `text ${randomUUID()}`
		});
		return;
	}
	const stoppedBefore = await saidStop(tx, from);
	await tx.rows(textIn).add({
		...{ at, fromNumber: from, toNumber: to.slice(0, 40), words, command },
		personId: delivery?.personId ?? addresses[0]?.personId ?? null,
		// What is said of an open group answers no letter.
		deliveryId: command === 'code' || command === 'join' ? null : (delivery?.id ?? null)
	});
	if (command === 'code' || command === 'join' || command === 'coming') return;
	if (command !== 'help') await obey(tx, from, addresses, command, at);
	if (command === 'help' || changesBy(command, addresses, stoppedBefore)) {
		const kind = ({ stop: 'stopped', start: 'started', help: 'help' } as const)[command];
		const reads = await languageOf(tx, addresses[0]?.personId ?? null);
		await sayByItself(tx, { kind, way: 'text', address: from, language: reads ?? language }, at);
	}
}

/** Whether STOP or START changes anything for a phone: what it has said before is not confirmed again. */
const changesBy = (
	command: 'stop' | 'start',
	addresses: readonly TextAddress[],
	stoppedBefore: boolean
): boolean =>
	command === 'stop'
		? !stoppedBefore || addresses.some((a) => a.consent !== 'out')
		: stoppedBefore || addresses.some((a) => a.consent !== 'in');

const languageOf = async (tx: Query, personId: number | null): Promise<string | undefined> =>
	personId === null
		? undefined
		: (await tx.rows(person).one({ id: personId }, ['language']))?.language;

/** Whether a text says yes to our question whether texts are wanted, which its phone was asked within a day. */
async function answersAskTexts(
	tx: Query,
	from: string,
	words: string,
	at: number
): Promise<'start' | null> {
	if (likenessOf(words, []) !== 'yes') return null;
	const asked = await tx.one(
		`SELECT 1 FROM auto_note WHERE address = $from AND kind = 'ask-texts' AND made_at > $since`,
		{ from, since: at - askedMs }
	);
	return asked ? 'start' : null;
}

/** Changes consent for everyone who has a number on file, at once; after STOP nothing that waits for it leaves. */
async function obey(
	tx: Query,
	from: string,
	addresses: readonly TextAddress[],
	command: 'stop' | 'start',
	at: number
): Promise<void> {
	await tx.run(
		`UPDATE address SET consent = $consent, consent_at = $at, consent_how = 'text', consent_said = NULL WHERE id IN (SELECT value FROM json_each($ids))`,
		{
			at,
			consent: command === 'stop' ? 'out' : 'in',
			ids: JSON.stringify(addresses.map((a) => a.id))
		}
	);
	await ownChanged(
		tx,
		addresses.map((a) => a.personId)
	);
	if (command === 'start') return;
	const why = 'the phone answered STOP';
	await leaveByText(tx, from, at);
	await tx.run(
		`UPDATE auto_note SET state = 'failed', detail = $why WHERE state = 'waiting' AND way = 'text' AND address = $from AND kind != 'stopped'`,
		{ from, why }
	);
	await stopPending(tx, { way: 'text', address: from }, why);
}
