import { wentOut } from '$lib/server/http/went-out';
import contentDisposition from 'content-disposition';
import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { sendingSchema } from '$lib/server/desk/sheet/sheet';
import { ask } from '$lib/server/planner/planner';
import { readForm } from '$lib/server/http/read-form';
import { writtenSchema } from '$lib/server/desk/plan/manifest-view';

const formSchema = z.object({
	as: z.enum(['csv', 'vcard', 'addresses']),
	sheet: z
		.string()
		.max(3_000_000)
		.transform((text, context) => {
			try {
				return JSON.parse(text) as unknown;
			} catch {
				context.addIssue({ code: 'custom', message: 'is not valid JSON' });
				return z.NEVER;
			}
		})
		.pipe(sendingSchema.extend({ written: writtenSchema }))
});

/** Media types: text/csv RFC 7111, text/vcard RFC 6350 section 10.1. */
const files = {
	csv: { name: 'manifest.csv', type: 'text/csv; charset=utf-8; header=present' },
	vcard: { name: 'manifest.vcf', type: 'text/vcard; charset=utf-8' },
	addresses: { name: 'addresses.txt', type: 'text/plain; charset=utf-8' }
} as const;

/** The manifest as a file, from a form. */
export const POST = async ({ request, locals }) => {
	const parsed = formSchema.safeParse(await readForm(request));
	if (!parsed.success) {
		error(400, parsed.error.issues.map((i) => `${i.path.join('.')}: ${i.message}`).join(' '));
	}
	const { as, sheet } = parsed.data;
	const { written, ...sending } = sheet;
	const file = files[as];
	const content = await ask('file', locals.user!, sending, written, as);
	await wentOut(locals.user!, 'manifest');
	return new Response(content, {
		headers: {
			'content-type': file.type,
			'content-disposition': contentDisposition(file.name)
		}
	});
};
