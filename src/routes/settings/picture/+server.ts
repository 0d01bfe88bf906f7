import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { logoLimitBytes } from '$lib/server/desk/district/letterhead-form';
import { tooBig } from '$lib/server/desk/sheet/file-kind';
import { keepFile } from '$lib/server/desk/sheet/files';
import { setting } from '$lib/server/http/may-set';

const querySchema = z.object({ name: z.string().min(1).max(500) });

/** Takes in a picture for the settings: its content is the body of the request, its name is in the address. */
export const POST = async ({ request, url, locals }) => {
	const { db, settings } = await setting(locals.user!);
	const query = querySchema.safeParse(Object.fromEntries(url.searchParams));
	if (!query.success)
		return json({ why: 'The picture has no name. Choose it again.' }, { status: 400 });
	const { name } = query.data;
	// Looked at before a byte is read.
	const announced = Number(request.headers.get('content-length') ?? 0);
	if (announced > logoLimitBytes)
		return json({ why: tooBig(name, announced, logoLimitBytes) }, { status: 413 });
	const content = Buffer.from(await request.arrayBuffer());
	const kept = await keepFile(
		...([db, settings.dataFolder, locals.user!, name, content, 'picture', logoLimitBytes] as const)
	);
	return kept.ok ? json(kept.file) : json({ why: kept.why }, { status: 415 });
};
