import { readTextReceipt, textReceiptOutcome } from '../../core/track/text-receipt';
import { textGateway, type TextMessage } from './text';
import { bareHost, foundAndThere, taken, type Tried } from './tried';

/** How long a receipt is waited for, ms: a phone that is on says so within seconds (common practice). */
const receiptMs = 30_000;
/** How much longer than that a step may take in all, ms. */
const spareMs = 5_000;

/** Why an exchange does not let us in; the numbers are those of SMPP 3.4 section 5.1.3. */
const signInWords: Readonly<Record<string, string>> = {
	'0xd':
		'It does not let us in: the bind failed. Ask the provider whether this account may receive as well as send.',
	'0xe': 'It does not take the password. Write it again.',
	'0xf': 'It does not know the system id. Write it again.',
	'0x5':
		'It says that somebody is signed in by this system id already: the courier may be, or another program.'
};

/** Tries a text provider step by step (SMPP 3.4): found, there, let in, one text handed over, its receipt. A receipt that does not come is said and keeps no text from leaving. */
export async function tryText(
	address: string,
	message: TextMessage,
	waitMs = receiptMs
): Promise<Tried> {
	const url = new URL(address);
	let sent: (ref: string | null) => void = () => {};
	/** By what the exchange speaks of our text; null where it has not taken it. */
	const ourRef = new Promise<string | null>((resolve) => (sent = resolve));
	let heard: (said: string) => void = () => {};
	const final = new Promise<string>((resolve) => (heard = resolve));
	let open = '';
	const gateway = textGateway(address, async (came) => {
		// What is not ours is the courier's: the exchange is asked to send it again.
		if ('words' in came) return false;
		const receipt = readTextReceipt(came);
		if (receipt === null || receipt.messageId !== (await ourRef)) return false;
		const { outcome, text } = textReceiptOutcome[receipt.state];
		if (outcome === 'open') open = text;
		else heard(text);
		return true;
	});
	try {
		const steps = await taken(
			[
				...foundAndThere(bareHost(url), Number(url.port || 2775)),
				[
					'It lets us in',
					async () => {
						await gateway.start();
						const down = gateway.down();
						if (down === null) return `as ${decodeURIComponent(url.username)}`;
						const code = /\((0x[0-9a-f]+)\)/.exec(down)?.[1] ?? '';
						throw new Error(signInWords[code] ?? `It does not let us in: ${down}.`);
					}
				],
				[
					'It takes the text',
					async () => {
						const outcome = await gateway.send(message);
						sent(outcome.kind === 'accepted' ? (outcome.providerRef ?? null) : null);
						if (outcome.kind === 'accepted') return `for ${message.to}`;
						const why =
							'why' in outcome ? outcome.why : `${outcome.detail} (${outcome.said ?? ''})`;
						throw new Error(`It did not take the text: ${why}.`);
					}
				],
				[
					'A receipt comes back',
					async () => {
						let late: NodeJS.Timeout | undefined;
						const none = new Promise<null>((resolve) => {
							late = setTimeout(() => resolve(null), waitMs);
						});
						const said = await Promise.race([final, none]);
						clearTimeout(late);
						if (said !== null) return said;
						if (open !== '') return `${open}; nothing more came yet`;
						throw new Error(
							`None came within ${Math.round(waitMs / 1000)} seconds. Texts leave, but nobody will know whether they arrive: ask the provider for delivery receipts. Where the courier is signed in by the same account, it may have gone there.`
						);
					}
				]
			],
			waitMs + spareMs
		);
		// Without a receipt texts leave all the same.
		return { steps, works: steps.every((s) => s.ok || s.name === 'A receipt comes back') };
	} finally {
		sent(null);
		await gateway.close();
	}
}
