import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { allSent, takenFile } from '$lib/server/desk/leaving/leaving';
import { sendFile } from '$lib/server/http/send-file';
import { services } from '$lib/server/services';

const askedSchema = z.object({
	id: z.coerce.number().int().positive(),
	token: z.string().regex(/^[\w-]{43}$/)
});

/** What is taken along, by the link that its asker was given: whole, or from where it broke off. */
export const GET = async ({ params, url, request, locals }) => {
	const parsed = askedSchema.safeParse({ id: params.id, token: url.searchParams.get('key') });
	const { db, settings } = await services();
	const file =
		parsed.success && locals.sessionId !== null
			? await takenFile({ db, dataFolder: settings.dataFolder }, locals.user!, {
					...parsed.data,
					sessionId: locals.sessionId
				})
			: null;
	if (!file || !parsed.success)
		error(404, 'This link was used, is over, or is another session’s. Pack it up once more.');
	return sendFile(request, {
		...file,
		...{ type: 'application/zip', name: `idle-courier-${parsed.data.id}.zip` },
		ended: () => void allSent(db, parsed.data.id).catch(() => {})
	});
};
