import { fail, redirect } from '@sveltejs/kit';
import { firstKeyFits } from '$lib/server/access/first-key';
import { passwordLength } from '$lib/server/access/password-rules';
import { openSession } from '$lib/server/access/sessions';
import { countryChoices } from '$lib/server/desk/district/form-fields';
import { foundDistrict, foundSchema } from '$lib/server/desk/district/found';
import { keepSession, sessionCookie } from '$lib/server/http/cookie';
import { readForm } from '$lib/server/http/read-form';
import { issuesText } from '$lib/server/plain-issues';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

/** A key as it can be; anything longer is none. */
const most = 60;

export const load: PageServerLoad = async ({ params, setHeaders }) => {
	const { db } = await services();
	// The address is the right: it goes nowhere else.
	setHeaders({ 'referrer-policy': 'no-referrer' });
	return {
		fits: await firstKeyFits(db, params.token.slice(0, most)),
		least: passwordLength.least,
		zones: Intl.supportedValuesOf('timeZone'),
		countries: countryChoices
	};
};

export const actions: Actions = {
	default: async ({ request, params, cookies, getClientAddress }) => {
		const form = await readForm(request);
		// What was typed stands there again, but for the password.
		const typed = Object.fromEntries(
			['name', 'zone', 'clock', 'country', 'givenName', 'familyName', 'email', 'userName'].map(
				(field) => [field, typeof form[field] === 'string' ? form[field].slice(0, 320) : '']
			)
		);
		const parsed = foundSchema.safeParse(form);
		if (!parsed.success) return fail(400, { typed, why: issuesText(parsed.error) });
		const { db, settings } = await services();
		const founded = await foundDistrict(db, params.token.slice(0, most), parsed.data);
		if (!founded.ok) return fail(400, { typed, why: founded.why });
		const from = {
			address: getClientAddress(),
			agent: request.headers.get('user-agent') ?? ''
		};
		const before = cookies.get(sessionCookie(settings));
		keepSession(
			cookies,
			settings,
			await db.write((tx) => openSession(tx, founded.personId, from, { before, factor: 'given' }))
		);
		redirect(303, '/settings/start');
	}
};
