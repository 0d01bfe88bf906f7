import { z } from 'zod';
import type { Settings } from '../../settings';
import { type StandinView, letterSchema, textSchema, mailboxSchema, phoneSchema } from './types';

/** Has a stand-in do something. Null, or why it could not. */
async function tell(url: string, what: object, withinMs = 3_000): Promise<string | null> {
	try {
		const response = await fetch(url, {
			method: 'POST',
			body: JSON.stringify(what),
			signal: AbortSignal.timeout(withinMs)
		});
		const answer = (await response.json()) as { error?: string };
		return response.ok ? null : (answer.error ?? 'The stand-in refused it.');
	} catch {
		return 'The stand-in does not answer.';
	}
}

/** A phone of the stand-in sends a text back. Null, or why it could not. */
export const sayFromPhone = (
	settings: Settings,
	said: { readonly phone: string; readonly text: string }
): Promise<string | null> => tell(`${settings.exchangeUrl}/say`, said);

/** Whoever reads a mailbox of the stand-in answers a letter in it. Null, or why it could not. */
export const answerLetter = (
	settings: Settings,
	said: { readonly number: number; readonly text: string }
): Promise<string | null> => tell(`${settings.mailhouseUrl}/answer`, said, 10_000);

async function ask<T extends z.ZodType>(url: string, schema: T): Promise<z.infer<T>> {
	const response = await fetch(url, { signal: AbortSignal.timeout(3_000) });
	return schema.parse(await response.json());
}

/** The newest letters and texts, of one mailbox or phone where one is named. */
export async function standinView(settings: Settings, search: string): Promise<StandinView> {
	const query = `newest=1&limit=25${search ? `&to=${encodeURIComponent(search)}` : ''}`;
	const [mail, phone] = await Promise.allSettled([
		Promise.all([
			ask(
				`${settings.mailhouseUrl}/letters?${query}`,
				z.object({ count: z.number(), letters: z.array(letterSchema) })
			),
			ask(`${settings.mailhouseUrl}/mailboxes`, z.array(mailboxSchema))
		]),
		Promise.all([
			ask(
				`${settings.exchangeUrl}/texts?${query}`,
				z.object({ count: z.number(), texts: z.array(textSchema) })
			),
			ask(`${settings.exchangeUrl}/phones`, z.array(phoneSchema))
		])
	]);
	return {
		mail: mail.status === 'fulfilled' ? { ...mail.value[0], faults: mail.value[1] } : null,
		phone: phone.status === 'fulfilled' ? { ...phone.value[0], faults: phone.value[1] } : null
	};
}

/** Sets a mailbox or phone to fail, or to work again. Returns why it could not, or null. */
export function setFault(
	settings: Settings,
	{ address, fault }: { readonly address: string; readonly fault: string | null }
): Promise<string | null> {
	return address.startsWith('+')
		? tell(`${settings.exchangeUrl}/phones`, { phone: address, fault })
		: tell(`${settings.mailhouseUrl}/mailboxes`, { mailbox: address, fault });
}
