import { fail } from '@sveltejs/kit';
import { z } from 'zod';
import {
	addClosure,
	closureInputSchema,
	closureLines,
	dropClosure
} from '$lib/server/desk/calendar/closures';
import { eventLines } from '$lib/server/desk/calendar/events';
import { eventPlaces } from '$lib/server/desk/calendar/event-places';
import { workZone } from '$lib/server/access/work-clock';
import { saveEventForm } from '$lib/server/http/event-form';
import { may } from '$lib/server/access/may';
import { now } from '$lib/server/clock';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import { localOf } from '$lib/core/time/local';
import type { Actions, PageServerLoad } from './$types';
import { readForm } from '$lib/server/http/read-form';

export const load: PageServerLoad = async ({ locals }) => {
	const { db } = await services();
	const zone = await workZone(db, locals.user!);
	const time = await now(db);
	return {
		zone,
		events: await eventLines(db, locals.user!, {
			from: time - 7 * 86_400_000,
			to: time + 400 * 86_400_000
		}),
		closures: await closureLines(db),
		first: `${localOf(time + 7 * 86_400_000, zone).slice(0, 10)}T18:30`,
		today: localOf(time, zone).slice(0, 10),
		mayImport: may(locals.user!, 'import-calendar'),
		...(await eventPlaces(db, locals.user!))
	};
};

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);

export const actions: Actions = {
	save: ({ request, locals }) => saveEventForm(request, locals.user!),
	close: async ({ request, locals }) => {
		const { db } = await services();
		const data = await readForm(request);
		const parsed = closureInputSchema.safeParse({
			...data,
			schoolId: data.schoolId ? Number(data.schoolId) : null,
			sure: data.sure === '1'
		});
		if (!parsed.success)
			return fail(400, { why: parsed.error.issues.map((i) => i.message).join(' ') });
		const added = await addClosure(db, locals.user!, parsed.data);
		if (!added.ok && added.ask) return fail(409, { ask: added.why });
		if (!added.ok) return fail(403, { why: added.why });
		await ask('replanAhead');
		return { done: 'No school then. What would have left that day was looked at again.' };
	},
	open: async ({ request, locals }) => {
		const { db } = await services();
		const id = idSchema.safeParse((await readForm(request)).id);
		if (!id.success) return fail(400, { why: 'Which days are meant is missing.' });
		const dropped = await dropClosure(db, locals.user!, id.data);
		if (!dropped.ok) return fail(403, { why: dropped.why });
		await ask('replanAhead');
		return { done: 'There is school again.' };
	}
};
