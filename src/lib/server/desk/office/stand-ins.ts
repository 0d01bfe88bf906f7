import { z } from 'zod';
import type { Settings } from '../../settings';
import { type StandinView, letterSchema, textSchema, mailboxSchema, phoneSchema } from './types';

/** A phone of the stand-in sends a text back. Null, or why it could not. */
export async function sayFromPhone(
	settings: Settings,
	said: { readonly phone: string; readonly text: string }
): Promise<string | null> {
	try {
		const response = await fetch(`${settings.exchangeUrl}/say`, {
			method: 'POST',
			body: JSON.stringify(said),
			signal: AbortSignal.timeout(3_000)
		});
		const answer = (await response.json()) as { error?: string };
		return response.ok ? null : (answer.error ?? 'The stand-in refused it.');
	} catch {
		return 'The stand-in does not answer.';
	}
}

/** Whoever reads a mailbox of the stand-in answers a letter in it. Null, or why it could not. */
export async function answerLetter(
	settings: Settings,
	said: { readonly number: number; readonly text: string }
): Promise<string | null> {
	try {
		const response = await fetch(`${settings.mailhouseUrl}/answer`, {
			method: 'POST',
			body: JSON.stringify(said),
			signal: AbortSignal.timeout(10_000)
		});
		const answer = (await response.json()) as { error?: string };
		return response.ok ? null : (answer.error ?? 'The stand-in refused it.');
	} catch {
		return 'The stand-in does not answer.';
	}
}

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
export async function setFault(
	settings: Settings,
	which: { readonly address: string; readonly fault: string | null }
): Promise<string | null> {
	const isPhone = which.address.startsWith('+');
	const url = isPhone ? `${settings.exchangeUrl}/phones` : `${settings.mailhouseUrl}/mailboxes`;
	const body = { [isPhone ? 'phone' : 'mailbox']: which.address, fault: which.fault };
	try {
		const response = await fetch(url, {
			method: 'POST',
			body: JSON.stringify(body),
			signal: AbortSignal.timeout(3_000)
		});
		const answer = (await response.json()) as { error?: string };
		return response.ok ? null : (answer.error ?? 'The stand-in refused it.');
	} catch {
		return 'The stand-in does not answer.';
	}
}
