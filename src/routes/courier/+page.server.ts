import { courierHealth } from '$lib/server/desk/office/courier-status';
import { services } from '$lib/server/services';
import { fail } from '@sveltejs/kit';
import { z } from 'zod';
import { may } from '$lib/server/access/may';
import { goOnPutBack, putBackOf } from '$lib/server/desk/send/put-back';
import { readForm } from '$lib/server/http/read-form';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ depends, locals }) => {
	depends('courier');
	const { db } = await services();
	return {
		health: await courierHealth(db),
		putBack: await putBackOf(db, locals.user!),
		mayOperate: may(locals.user!, 'operate')
	};
};

const dueSchema = z.enum(['send', 'leave-out']);

export const actions: Actions = {
	goOn: async ({ request, locals }) => {
		const due = dueSchema.safeParse((await readForm(request)).due);
		if (!due.success) return fail(400, { why: 'Say what is done with the copies that are due.' });
		const { db } = await services();
		const looked = await goOnPutBack(db, locals.user!, due.data);
		return looked.ok ? { said: looked.said } : fail(409, { why: looked.why });
	}
};
