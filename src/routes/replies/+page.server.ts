import { z } from 'zod';
import { looked } from '$lib/server/desk/replies/act';
import { openedTalk, talkKey } from '$lib/server/desk/replies/opened-talk';
import { lookSchema, repliesView } from '$lib/server/desk/replies/replies';
import { readDistrict } from '$lib/server/db/district';
import { whoIsThere } from '$lib/server/live/talk';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

const openSchema = z.coerce.number().int().positive().nullable().catch(null);

export const load: PageServerLoad = async ({ locals, url }) => {
	const { db, settings } = await services();
	const user = locals.user!;
	const look = lookSchema.parse(Object.fromEntries(url.searchParams));
	const open = openSchema.parse(url.searchParams.get('open'));
	const opened = open === null ? null : await openedTalk(db, user, open);
	if (opened) await looked(db, user, opened.id);
	return {
		userId: user.personId,
		look,
		view: await repliesView(db, user, look, opened?.id ?? null),
		opened,
		/** Asked for, and not there or not theirs. */
		/** Who else has it open, and whether its family is there. */
		there: opened ? whoIsThere((await talkKey(db, user, opened.id))!) : null,
		missing: open !== null && opened === null,
		translator: settings.translatorUrl !== '',
		fileLimit: (await readDistrict(db)).fileLimitMegabytes * 1e6
	};
};
