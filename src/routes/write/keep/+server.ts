import { json } from '@sveltejs/kit';
import { ask } from '$lib/server/planner/planner';
import { z } from 'zod';
import { audienceSchema } from '$lib/core/audience/audience';
import { keptNameSchema } from '$lib/server/desk/audience/kept';
import { readJson } from '$lib/server/http/read-json';
import { keptFormSchema } from '$lib/server/desk/audience/types';

const bodySchema = z.object({
	name: keptNameSchema,
	form: keptFormSchema,
	audience: audienceSchema
});

/** Keeps the audience of a sheet under a name. 409 where the name is taken or there is nothing to keep. */
export const POST = async ({ request, locals }) => {
	const { name, form, audience } = await readJson(request, bodySchema);
	const result = await ask('keep', locals.user!, name, form, audience);
	return json(result, { status: result.ok ? 200 : 409 });
};
