import { may } from '$lib/server/access/may';
import { error, fail } from '@sveltejs/kit';
import { z } from 'zod';
import { dateActions } from '$lib/server/http/date-actions';
import { workZone } from '$lib/server/access/work-clock';
import { callOffEvent } from '$lib/server/desk/calendar/events';
import { eventPlaces } from '$lib/server/desk/calendar/event-places';
import { ask } from '$lib/server/planner/planner';
import { eventOf } from '$lib/server/db/calendar';
import { saveEventForm } from '$lib/server/http/event-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, params }) => {
	const { db } = await services();
	const user = locals.user!;
	const id = z.coerce.number().int().positive().safeParse(params.id);
	const event = id.success ? await eventOf(db, id.data) : null;
	if (!event) error(404, 'There is no such event.');
	return {
		event,
		mine: may(user, 'handle', event.madeBy),
		rounds: await ask('roundViews', user, { eventId: event.id }),
		zone: await workZone(db, locals.user!),
		...(await eventPlaces(db, user))
	};
};

export const actions: Actions = {
	...dateActions,
	save: async ({ request, locals, params }) => {
		const { db } = await services();
		const id = z.coerce.number().int().positive().safeParse(params.id);
		if (!id.success || !(await eventOf(db, id.data))) error(404, 'There is no such event.');
		return saveEventForm(request, locals.user!);
	},
	callOff: async ({ params, locals }) => {
		const { db } = await services();
		const off = await callOffEvent(db, locals.user!, Number(params.id));
		if (!off.ok) return fail(403, { why: off.why });
		return {
			done:
				off.moved > 0
					? `Called off. ${off.moved} ${off.moved === 1 ? 'reminder waits' : 'reminders wait'} for your answer below.`
					: 'Called off.'
		};
	}
};
