import { fail } from '@sveltejs/kit';
import { z } from 'zod';
import { askPassword } from '$lib/server/desk/work/own';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions } from './$types';

const formSchema = z.object({
	who: z.string().trim().min(2, 'Write your user name or your mail address.').max(320)
});

export const actions: Actions = {
	default: async ({ request, getClientAddress }) => {
		const parsed = formSchema.safeParse(await readForm(request));
		if (!parsed.success)
			return fail(400, { why: parsed.error.issues.map((i) => i.message).join(' '), asked: false });
		const { db } = await services();
		const waitMs = await askPassword(db, parsed.data.who, getClientAddress());
		if (waitMs > 0)
			return fail(429, {
				why: `That was asked many times. Wait ${Math.ceil(waitMs / 60_000)} minutes, then ask again.`,
				asked: false
			});
		return { asked: true, why: '' };
	}
};
