import { z } from 'zod';
import type { Settings } from '../../settings';

/** What arrived at the stand-ins, for the demo's own page. They are asked over HTTP, like any outside service. */
const letterSchema = z.object({
	number: z.number(),
	to: z.string(),
	from: z.string(),
	subject: z.string(),
	date: z.string(),
	repeat: z.boolean(),
	text: z.string()
});
const textSchema = z.object({
	number: z.number(),
	to: z.string(),
	text: z.string(),
	arrived: z.boolean()
});
export type StandinLetter = z.infer<typeof letterSchema>;
export type StandinText = z.infer<typeof textSchema>;

export const mailboxFaults = ['refuse', 'return', 'later', 'full'] as const;
export const phoneFaults = ['dead', 'off', 'refuse', 'busy'] as const;

const mailboxSchema = z.object({ mailbox: z.string(), fault: z.enum(mailboxFaults) });
const phoneSchema = z.object({ phone: z.string(), fault: z.enum(phoneFaults) });

export interface StandinView {
	/** Null where the stand-in does not answer. */
	readonly mail: {
		readonly count: number;
		readonly letters: readonly StandinLetter[];
		readonly faults: readonly z.infer<typeof mailboxSchema>[];
	} | null;
	readonly phone: {
		readonly count: number;
		readonly texts: readonly StandinText[];
		readonly faults: readonly z.infer<typeof phoneSchema>[];
	} | null;
}

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
