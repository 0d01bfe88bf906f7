import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { readDistrict } from '$lib/server/db/district';
import { keepFile } from '$lib/server/desk/sheet/files';
import { tooBig } from '$lib/server/desk/sheet/file-kind';
import { services } from '$lib/server/services';

const querySchema = z.object({
	name: z.string().min(1).max(500),
	as: z.enum(['file', 'picture'])
});

/** Takes a file in: its content is the body of the request, its name is in the address. */
export const POST = async ({ request, url, locals }) => {
	const query = querySchema.safeParse(Object.fromEntries(url.searchParams));
	if (!query.success) {
		return json({ why: 'The file has no name. Choose it again.' }, { status: 400 });
	}
	const { name, as } = query.data;
	const { db, settings } = await services();
	const limit = (await readDistrict(db)).fileLimitMegabytes * 1e6;
	// Looked at before a byte is read: nobody waits for 80 MB to hear that it is too much.
	const announced = Number(request.headers.get('content-length') ?? 0);
	if (announced > limit) return json({ why: tooBig(name, announced, limit) }, { status: 413 });
	const content = Buffer.from(await request.arrayBuffer());
	const kept = await keepFile(db, settings.dataFolder, locals.user!, name, content, as, limit);
	return kept.ok ? json(kept.file) : json({ why: kept.why }, { status: 415 });
};
