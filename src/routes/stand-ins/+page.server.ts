import { error, fail } from '@sveltejs/kit';
import { z } from 'zod';
import {
	answerLetter,
	setFault,
	standinView,
	sayFromPhone
} from '$lib/server/desk/office/stand-ins';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';
import { readForm } from '$lib/server/http/read-form';
import { mailboxFaults, phoneFaults } from '$lib/server/desk/office/types';

const searchSchema = z.string().trim().max(200).catch('');
const faultSchema = z.object({
	address: z.string().trim().min(3, 'Write a mailbox or a phone number.').max(200),
	fault: z
		.enum(
			[...new Set([...mailboxFaults, ...phoneFaults, 'works'])] as [string, ...string[]],
			'Choose what happens there.'
		)
		.transform((f) => (f === 'works' ? null : f))
});

export const load: PageServerLoad = async ({ url }) => {
	const { settings } = await services();
	if (!settings.demo) error(404, 'There is nothing at this address.');
	const search = searchSchema.parse(url.searchParams.get('to') ?? '');
	return { search, view: await standinView(settings, search) };
};

const answerSchema = z.object({
	number: z.coerce.number().int().positive(),
	text: z.string().trim().min(1, 'Write what is answered.').max(2_000)
});

const saySchema = z.object({
	phone: z
		.string()
		.trim()
		.regex(/^\+\d{7,15}$/, 'Write the phone like +12075550143.'),
	text: z.string().trim().min(1, 'Write what the phone sends.').max(600, '600 characters at most.')
});

export const actions: Actions = {
	/** A family answers from its phone: STOP, or anything else. */
	say: async ({ request }) => {
		const { settings } = await services();
		if (!settings.demo) error(404, 'There is nothing at this address.');
		const parsed = saySchema.safeParse(await readForm(request));
		if (!parsed.success)
			return fail(400, { why: parsed.error.issues.map((i) => i.message).join(' ') });
		const why = await sayFromPhone(settings, parsed.data);
		return why ? fail(400, { why }) : { sent: parsed.data.phone };
	},
	/** A family, or one of the staff, answers a letter from its mail program. */
	answer: async ({ request }) => {
		const { settings } = await services();
		if (!settings.demo) error(404, 'There is nothing at this address.');
		const parsed = answerSchema.safeParse(await readForm(request));
		if (!parsed.success)
			return fail(400, { why: parsed.error.issues.map((i) => i.message).join(' ') });
		const why = await answerLetter(settings, parsed.data);
		return why ? fail(400, { why }) : { answered: parsed.data.number };
	},
	fault: async ({ request }) => {
		const { settings } = await services();
		if (!settings.demo) error(404, 'There is nothing at this address.');
		const parsed = faultSchema.safeParse(await readForm(request));
		if (!parsed.success)
			return fail(400, { why: parsed.error.issues.map((i) => i.message).join(' ') });
		const why = await setFault(settings, parsed.data);
		return why ? fail(400, { why }) : { done: parsed.data.address };
	}
};
