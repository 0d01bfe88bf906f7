import { wentOut } from '$lib/server/http/went-out';
import contentDisposition from 'content-disposition';
import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { ask } from '$lib/server/planner/planner';

const ofSchema = z.string().min(1).max(120);

/** Whoever is written to for the students of a place, as vCards (RFC 6350, media type of section 10.1). */
export const GET = async ({ url, locals }) => {
	const of = ofSchema.safeParse(url.searchParams.get('of'));
	const out = of.success ? await ask('placeCards', locals.user!, of.data) : null;
	if (!out) error(404, 'There is no such place, or another office looks after it.');
	await wentOut(locals.user!, 'cards');
	return new Response(out.cards, {
		headers: {
			'content-type': 'text/vcard; charset=utf-8',
			'content-disposition': contentDisposition(`${out.name}.vcf`)
		}
	});
};
