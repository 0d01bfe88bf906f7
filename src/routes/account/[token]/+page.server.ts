import { fail, redirect } from '@sveltejs/kit';
import { openAccountLink } from '$lib/server/access/account-links';
import { passwordLength } from '$lib/server/access/password-rules';
import { readDistrict } from '$lib/server/db/district';
import {
	acceptInvitation,
	acceptSchema,
	freeUserName,
	resetPassword,
	resetSchema
} from '$lib/server/desk/work/own';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

/** A token as it can be; anything longer is none. */
const most = 60;

export const load: PageServerLoad = async ({ params, setHeaders }) => {
	const { db, key } = await services();
	// The address is the right: it goes nowhere else (RFC 9700 section 4.2.4 says the same of codes).
	setHeaders({ 'referrer-policy': 'no-referrer' });
	const link = await openAccountLink(db, key, params.token.slice(0, most));
	if (!link.ok) return { kind: 'none' as const, ended: link.ended };
	const { name } = await readDistrict(db);
	const who = (await db.one<{ name: string }>(
		`SELECT given_name || ' ' || family_name AS name FROM person WHERE id = $id`,
		{ id: link.personId }
	))!;
	return {
		kind: link.kind,
		district: name,
		name: who.name,
		userName: link.kind === 'invite' ? await freeUserName(db, link.personId) : '',
		least: passwordLength.least
	};
};

export const actions: Actions = {
	invite: async ({ request, params }) => {
		const form = await readForm(request);
		const parsed = acceptSchema.safeParse(form);
		const userName = typeof form.userName === 'string' ? form.userName.slice(0, 60) : '';
		if (!parsed.success)
			return fail(400, { userName, why: parsed.error.issues.map((i) => i.message).join(' ') });
		const { db, key } = await services();
		const set = await acceptInvitation(db, key, params.token.slice(0, most), parsed.data);
		if (!set.ok) return fail(400, { userName, why: set.why });
		redirect(303, `/sign-in?said=set&name=${encodeURIComponent(set.userName)}`);
	},
	reset: async ({ request, params }) => {
		const parsed = resetSchema.safeParse(await readForm(request));
		if (!parsed.success)
			return fail(400, { userName: '', why: parsed.error.issues.map((i) => i.message).join(' ') });
		const { db, key } = await services();
		const set = await resetPassword(db, key, params.token.slice(0, most), parsed.data);
		if (!set.ok) return fail(400, { userName: '', why: set.why });
		redirect(303, `/sign-in?said=set&name=${encodeURIComponent(set.userName)}`);
	}
};
