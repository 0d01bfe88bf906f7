import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { answerFileForUser } from '$lib/server/desk/replies/answer-files';
import { fileResponse } from '$lib/server/http/file-response';
import { services } from '$lib/server/services';

const idSchema = z.coerce.number().int().positive();

/** A file that came with an answer, for whoever may see the conversation. */
export const GET = async ({ params, locals }) => {
	const id = idSchema.safeParse(params.id);
	const { db, settings } = await services();
	const file = id.success ? await answerFileForUser(db, locals.user!, id.data) : undefined;
	if (!file) error(404, 'There is no such file, or it is not yours to see.');
	return fileResponse(settings.dataFolder, file);
};
