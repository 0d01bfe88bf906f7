import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { languageTagSchema, wordsSchema } from '$lib/core/copy/words';
import { draftTranslation } from '$lib/server/desk/sheet/translate';
import { translateGateway } from '$lib/server/gateway/translate';
import { readJson } from '$lib/server/http/read-json';
import { services } from '$lib/server/services';

const bodySchema = z.object({
	words: wordsSchema,
	from: languageTagSchema,
	to: languageTagSchema
});

/** Words drafted in another language. 502 where the service gave none. */
export const POST = async ({ request }) => {
	const { words, from, to } = await readJson(request, bodySchema);
	const { settings } = await services();
	const gateway = settings.translatorUrl ? translateGateway(settings.translatorUrl) : null;
	const drafted = await draftTranslation(gateway, words, from, to);
	return json(drafted, { status: drafted.ok ? 200 : 502 });
};
