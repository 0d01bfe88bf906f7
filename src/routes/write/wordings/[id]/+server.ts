import { error, json } from '@sveltejs/kit';
import { z } from 'zod';
import { giveUpWording, keptWordings } from '$lib/server/desk/sheet/kept-wordings';
import { services } from '$lib/server/services';

const idSchema = z.coerce.number().int().positive();

/** Gives a kept wording up. */
export const POST = async ({ params, locals }) => {
	const id = idSchema.safeParse(params.id);
	const { db } = await services();
	if (!id.success || !(await giveUpWording(db, locals.user!, id.data))) {
		error(404, 'There is no such kept wording of yours any more.');
	}
	return json(await keptWordings(db, locals.user!));
};
