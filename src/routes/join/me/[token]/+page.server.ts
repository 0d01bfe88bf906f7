import { error, fail } from '@sveltejs/kit';
import { z } from 'zod';
import { joinLanguages, joinPhrases } from '$lib/core/copy/join-phrases';
import { readDistrict } from '$lib/server/db/district';
import {
	joinByLink,
	joinerSchema,
	joinOffered,
	leaveByLink,
	openJoining
} from '$lib/server/desk/joining/by-link';
import { workOutAhead } from '$lib/server/http/roster-work';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const languageSchema = z
	.enum(joinLanguages as [string, ...string[]])
	.nullable()
	.catch(null);
const noLink = 'This link leads nowhere. Use the newest letter, or the code of the group.';

/** A link that a machine opens changes nothing: only what is said on the page does. */
export const load: PageServerLoad = async ({ params, url }) => {
	const { db, key } = await services();
	const own = await openJoining(db, key, params.token);
	if (!own) error(404, noLink);
	const chosen = languageSchema.parse(url.searchParams.get('language'));
	const { state, name, studentSaid, address, language } = own.row;
	return {
		language: joinPhrases(chosen ?? language).tag,
		offered: await joinOffered(db),
		district: (await readDistrict(db)).name,
		group: own.group.name,
		open: own.open,
		...{ state, name, address, student: studentSaid }
	};
};

export const actions: Actions = {
	join: async ({ params, request }) => {
		const typed = joinerSchema.parse(await readForm(request));
		const { db, key } = await services();
		const fault = await joinByLink(db, key, params.token, typed);
		return fault === null ? { typed, fault } : fail(400, { typed, fault });
	},
	leave: async ({ params, request }) => {
		await readForm(request);
		const { db, key } = await services();
		await leaveByLink(db, key, params.token);
		workOutAhead();
	}
};
