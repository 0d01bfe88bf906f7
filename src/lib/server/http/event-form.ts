import { fail } from '@sveltejs/kit';
import { eventInputSchema } from '../desk/calendar/events';
import type { EventSaved } from '../desk/calendar/types';
import { ask } from '../planner/planner';
import type { User } from '../access/user';
import { readForm } from './read-form';

const ids = (value: unknown): number[] =>
	String(value ?? '')
		.split(',')
		.filter(Boolean)
		.map(Number);

/** Saves an event from its form; what is wrong comes back in words. */
export async function saveEventForm(request: Request, user: User) {
	const data = await readForm(request);
	const parsed = eventInputSchema.safeParse({
		...data,
		id: data.id ? Number(data.id) : null,
		base: data.base ? Number(data.base) : null,
		allDay: data.allDay === '1',
		schoolIds: ids(data.schoolIds),
		sectionIds: ids(data.sectionIds)
	});
	if (!parsed.success)
		return fail(400, { why: parsed.error.issues.map((i) => i.message).join(' ') });
	const saved: EventSaved = await ask('saveEvent', user, parsed.data);
	if (!saved.ok) return fail(409, { why: saved.why });
	return {
		done:
			saved.moved > 0
				? `Changed. ${saved.moved} ${saved.moved === 1 ? 'reminder has' : 'reminders have'} moved with it.`
				: 'Saved.'
	};
}
