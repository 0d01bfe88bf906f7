import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { fileForUser } from '$lib/server/desk/sheet/files';
import { fileResponse } from '$lib/server/http/file-response';
import { mediaResponse } from '$lib/server/http/media-response';
import { services } from '$lib/server/services';

const idSchema = z.coerce.number().int().positive();

/** A file for whoever put it in. */
export const GET = async ({ params, locals, request }) => {
	const { db, settings } = await services();
	const id = idSchema.safeParse(params.id);
	const file = id.success ? await fileForUser(db, locals.user!, id.data) : undefined;
	if (!file) error(404, 'There is no such file of yours.');
	return /^(audio|video)\//.test(file.type)
		? mediaResponse(request, settings.dataFolder, file)
		: fileResponse(settings.dataFolder, file);
};
