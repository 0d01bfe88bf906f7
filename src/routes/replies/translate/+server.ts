import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { languageTagSchema } from '$lib/core/copy/words';
import { draftAnswer, draftOfAnswer } from '$lib/server/desk/replies/drafts';
import { translateGateway } from '$lib/server/gateway/translate';
import { readJson } from '$lib/server/http/read-json';
import { services } from '$lib/server/services';

const bodySchema = z.union([
	/** What a family wrote, for whoever answers it. */
	z.object({ answer: z.number().int().positive() }),
	/** What is answered, for the family. */
	z.object({ words: z.string().trim().min(1).max(10_000), to: languageTagSchema })
]);

/** A draft by the translation service. 502 where it gave none. */
export const POST = async ({ request, locals }) => {
	const wanted = await readJson(request, bodySchema);
	const { db, settings } = await services();
	const gateway = settings.translatorUrl ? translateGateway(settings.translatorUrl) : null;
	const drafted =
		'answer' in wanted
			? await draftOfAnswer(db, gateway, locals.user!, wanted.answer)
			: await draftAnswer(gateway, wanted.words, 'en', wanted.to);
	return json(drafted, { status: drafted.ok ? 200 : 502 });
};
