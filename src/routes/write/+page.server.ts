import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { audienceOf } from '$lib/core/audience/audience';
import { proposalOf } from '$lib/server/desk/audience/of-event';
import { audienceOfGroup } from '$lib/server/desk/audience/of-group';
import { may } from '$lib/server/access/may';
import { eventChoices } from '$lib/server/desk/calendar/events';
import { eventOf, readCalendar } from '$lib/server/db/calendar';
import { courierStatus } from '$lib/server/desk/office/courier-status';
import { readDraft } from '$lib/server/desk/sheet/draft';
import { readDistrict } from '$lib/server/db/district';
import { choices } from '$lib/server/desk/audience/choices';
import { lackingAudience } from '$lib/server/desk/markers/lacking';
import { clockChoices } from '$lib/server/desk/sheet/clock-choices';
import { readSender } from '$lib/server/desk/sheet/letters';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().optional();
const querySchema = z.object({
	draft: idSchema,
	/** A kept audience to put into the sheet. */
	use: idSchema,
	/** A section to write to, or a group. */
	section: idSchema,
	group: idSchema,
	/** An event to write about. */
	event: idSchema,
	/** A marker, and a place where those who lack it are written to. */
	marker: idSchema,
	lacking: z.string().max(100).optional()
});

export const load: PageServerLoad = async ({ locals, url }) => {
	const query = querySchema.safeParse(Object.fromEntries(url.searchParams));
	if (!query.success) error(404, 'There is no such draft.');
	const { db, settings } = await services();
	const user = locals.user!;
	const draft = query.data.draft ? await readDraft(db, user, query.data.draft) : null;
	if (query.data.draft && !draft) {
		error(404, 'There is no such draft of yours. It may have been sent; look in Reach.');
	}
	const use = query.data.use
		? await ask('useKept', user, query.data.use)
		: query.data.section
			? audienceOf([query.data.section])
			: query.data.group
				? await audienceOfGroup(db, query.data.group)
				: query.data.marker
					? lackingAudience(query.data.marker, query.data.lacking ?? '')
					: null;
	if (query.data.use && !use) {
		error(404, 'There is no such kept audience of yours any more.');
	}
	const event = query.data.event ? await eventOf(db, query.data.event) : null;
	if (query.data.event && (!event || event.calledOff))
		error(404, 'There is no such event any more.');
	const district = await readDistrict(db);
	return {
		draft,
		about: event && (await proposalOf(db, event)),
		use,
		userId: user.personId,
		publicUrl: settings.publicUrl,
		address: (await readSender(db, user.personId)).address,
		partCents: district.textPartCents,
		fileLimit: district.fileLimitMegabytes * 1e6,
		events: await eventChoices(db),
		mayUrgent: may(user, 'send-urgently'),
		quiet: district.quiet,
		quietDays: district.quietDays,
		calendar: await readCalendar(db, district),
		holds: district.holds,
		clock: await clockChoices(db, user),
		choices: await choices(db, user),
		courier: await courierStatus(db)
	};
};
