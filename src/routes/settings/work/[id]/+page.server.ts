import { error, fail } from '@sveltejs/kit';
import { z } from 'zod';
import { endSessions } from '$lib/server/access/sessions';
import { isAllowed } from '$lib/server/access/may';
import { accountView } from '$lib/server/desk/work/accounts';
import { endInvitation, mailAgain } from '$lib/server/desk/work/invite';
import { dropFactorOf } from '$lib/server/desk/work/own';
import {
	closeAccount,
	endRole,
	giveRole,
	roleChoices,
	roleSchema
} from '$lib/server/desk/work/roles';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive();
const noSuch = 'Nobody of that number works here.';

/** The number in the address, for whoever may look after accounts. */
function asked(user: App.Locals['user'], id: string): number {
	if (!isAllowed(user!, 'accounts'))
		error(403, 'Who works here is for whoever has the right to say so.');
	const parsed = idSchema.safeParse(id);
	if (!parsed.success) error(404, noSuch);
	return parsed.data;
}

export const load: PageServerLoad = async ({ locals, params }) => {
	const id = asked(locals.user, params.id);
	const { db } = await services();
	const account = await accountView(db, locals.user!, id);
	if (!account) error(404, noSuch);
	return { account, choices: await roleChoices(db) };
};

const answer = (done: { ok: true } | { ok: false; why: string }, said: string) =>
	done.ok ? { said, why: '' } : fail(409, { said: '', why: done.why });

export const actions: Actions = {
	give: async ({ request, locals, params }) => {
		const id = asked(locals.user, params.id);
		const parsed = roleSchema.safeParse(await readForm(request));
		if (!parsed.success)
			return fail(400, { said: '', why: parsed.error.issues.map((i) => i.message).join(' ') });
		const { db, key } = await services();
		return answer(await giveRole(db, key, locals.user!, id, parsed.data), 'The role is given.');
	},
	end: async ({ request, locals, params }) => {
		asked(locals.user, params.id);
		const role = idSchema.safeParse((await readForm(request)).role);
		if (!role.success) return fail(400, { said: '', why: 'There is no such role.' });
		const { db, key } = await services();
		return answer(await endRole(db, key, locals.user!, role.data), 'The role has ended.');
	},
	mail: async ({ locals, params }) => {
		const id = asked(locals.user, params.id);
		const { db } = await services();
		return answer(await mailAgain(db, locals.user!, id), 'The letter is on its way.');
	},
	uninvite: async ({ locals, params }) => {
		const id = asked(locals.user, params.id);
		const { db } = await services();
		return answer(await endInvitation(db, locals.user!, id), 'The invitation is taken back.');
	},
	close: async ({ locals, params }) => {
		const id = asked(locals.user, params.id);
		const { db, key } = await services();
		return answer(
			await closeAccount(db, key, locals.user!, id, true),
			'The account is closed; nobody comes in by it.'
		);
	},
	open: async ({ locals, params }) => {
		const id = asked(locals.user, params.id);
		const { db, key } = await services();
		return answer(
			await closeAccount(db, key, locals.user!, id, false),
			'The account is open again.'
		);
	},
	factor: async ({ locals, params }) => {
		const id = asked(locals.user, params.id);
		const { db } = await services();
		return answer(await dropFactorOf(db, locals.user!, id), 'The second factor is taken away.');
	},
	sessions: async ({ locals, params }) => {
		const id = asked(locals.user, params.id);
		const { db } = await services();
		const n = await db.write((tx) => endSessions(tx, id, { but: locals.sessionId }, locals.user!));
		return { said: `${n} ${n === 1 ? 'session has' : 'sessions have'} ended.`, why: '' };
	}
};
