import { error, fail, type Action } from '@sveltejs/kit';
import { z } from 'zod';
import { isAllowed } from '$lib/server/access/may';
import { accountView } from '$lib/server/desk/work/accounts';
import { endInvitation, mailAgain } from '$lib/server/desk/work/invite';
import { dropFactorOf, endSessionsOf } from '$lib/server/desk/work/own';
import { letGoOutside } from '$lib/server/desk/work/outside';
import {
	closeAccount,
	endRole,
	giveRole,
	roleChoices,
	roleSchema
} from '$lib/server/desk/work/roles';
import { readForm } from '$lib/server/http/read-form';
import { services, type Services } from '$lib/server/services';
import type { User } from '$lib/server/access/user';
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

type Done = { readonly ok: true } | { readonly ok: false; readonly why: string };
const answer = (done: Done, said: string) =>
	done.ok ? { said, why: '' } : fail(409, { said: '', why: done.why });

/** What a button does to one who works here, and what is said when it is done. */
const doing =
	(work: (house: Services, user: User, id: number) => Promise<Done>, said: string): Action =>
	async ({ locals, params }) => {
		const id = asked(locals.user, params.id!);
		return answer(await work(await services(), locals.user!, id), said);
	};

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
	mail: doing(({ db }, user, id) => mailAgain(db, user, id), 'The letter is on its way.'),
	uninvite: doing(
		({ db }, user, id) => endInvitation(db, user, id),
		'The invitation is taken back.'
	),
	close: doing(
		({ db, key }, user, id) => closeAccount(db, key, user, id, true),
		'The account is closed; nobody comes in by it.'
	),
	open: doing(
		({ db, key }, user, id) => closeAccount(db, key, user, id, false),
		'The account is open again.'
	),
	factor: doing(
		({ db }, user, id) => dropFactorOf(db, user, id),
		'The second factor is taken away.'
	),
	letgo: doing(
		({ db }, user, id) => letGoOutside(db, user, id),
		'Whoever is found to be them there next, is them.'
	),
	sessions: async ({ locals, params }) => {
		const id = asked(locals.user, params.id);
		const { db } = await services();
		const done = await endSessionsOf(db, locals.user!, id, locals.sessionId);
		return answer(
			done,
			done.ok ? `${done.ended} ${done.ended === 1 ? 'session has' : 'sessions have'} ended.` : ''
		);
	}
};
