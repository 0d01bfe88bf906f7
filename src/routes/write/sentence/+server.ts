import { json } from '@sveltejs/kit';
import { ask } from '$lib/server/planner/planner';
import { z } from 'zod';
import { audienceSchema } from '$lib/core/audience/audience';
import { readJson } from '$lib/server/http/read-json';

const bodySchema = z.object({
	audience: audienceSchema,
	/** A sentence to read; without it the audience is put into words. */
	text: z.string().max(500_000, 'The sentence is over 500,000 characters.').optional()
});

/** The audience as a sentence, or a sentence as an audience; 422 with where and why it cannot be read. */
export const POST = async ({ request, locals }) => {
	const { audience, text } = await readJson(request, bodySchema);
	if (text === undefined) return json({ text: await ask('sentence', locals.user!, audience) });
	const read = await ask('readSentence', locals.user!, text, audience);
	return json(read, { status: read.ok ? 200 : 422 });
};
