import { textIn } from '../../db/models/delivery';
import { toE164 } from '../../../core/format/phone';
import { textCommand } from '../../../core/talk/keyword';
import { now } from '../../clock';
import { ownChanged } from '../../db/roster';
import type { Query } from '../../db/open';
import type { IncomingText } from '../../gateway/text';
import { gatherPart, lateTexts } from './gather-parts';
import { joinByText, leaveByText } from '../joining/by-text';
import { stopPending } from '../track/stop-pending';
import { textAddressesOf } from '../../db/text-addresses';
import type { DeliveryRow } from '../../db/models/delivery';

/** The same words from the same phone so soon again are the exchange asking once more, ms. */
const sameMs = 60_000;

/** Longer is no text that anybody types on a phone. */
const mostWords = 10_000;

/** A phone's number in E.164, as far as it is one. */
const phoneOf = (from: string): string => toE164(from.startsWith('+') ? from : `+${from}`) ?? from;

/**
 * Takes texts that came in from phones: each is kept, with the newest copy that its number was sent. Of a
 * longer one the parts are kept until all are there (`gather-parts`).
 * One that is the code of an open group, or answers our question, brings its sender in (`joining/by-text`).
 * STOP and START are obeyed at once: consent changes for everyone who has the number on file, and
 * what still waits to leave for it does not leave. In the caller's transaction.
 */
export async function takeTexts(tx: Query, texts: readonly IncomingText[]): Promise<void> {
	for (const { from: phone, to, words, part } of texts) {
		const at = Math.round(await now(tx));
		const text = { from: phoneOf(phone), to, words };
		const whole = part ? await gatherPart(tx, text, part, at) : [text];
		for (const one of whole) await takeText(tx, one, at);
	}
}

/** Takes what there is of texts whose other parts come no more; how many there were. In the caller's transaction. */
export async function takeLateTexts(tx: Query): Promise<number> {
	const at = Math.round(await now(tx));
	const texts = await lateTexts(tx, at);
	for (const text of texts) await takeText(tx, text, at);
	return texts.length;
}

async function takeText(
	tx: Query,
	{ from, to, words: all }: Pick<IncomingText, 'from' | 'to' | 'words'>,
	at: number
): Promise<void> {
	const words = all.slice(0, mostWords);
	const again = await tx.one(
		'SELECT 1 FROM text_in WHERE from_number = $from AND words = $words AND at > $since',
		{ from, words, since: at - sameMs }
	);
	if (again) return;
	const delivery = await tx.one<Pick<DeliveryRow, 'id' | 'personId'>>(
		`SELECT id, person_id AS personId FROM delivery WHERE address = $from COLLATE NOCASE AND way = 'text'
			AND left_at IS NOT NULL ORDER BY left_at DESC LIMIT 1`,
		{ from }
	);
	const addresses = await textAddressesOf(tx, from);
	const asked = textCommand(words);
	const command = asked ?? (await joinByText(tx, { from, words }, at));
	await tx.rows(textIn).add({
		at,
		fromNumber: from,
		toNumber: to.slice(0, 40),
		words,
		command,
		personId: delivery?.personId ?? addresses[0]?.personId ?? null,
		// What is said of an open group answers no letter.
		deliveryId: command === 'code' || command === 'join' ? null : (delivery?.id ?? null)
	});
	if (command !== 'stop' && command !== 'start') return;
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
	if (command === 'stop') {
		await leaveByText(tx, from, at);
		await stopPending(tx, { way: 'text', address: from }, 'the phone answered STOP');
	}
}
