import { fail } from '@sveltejs/kit';
import type { z } from 'zod';
import type { WayOut } from '../../core/roster/way';
import type { User } from '../access/user';
import { codeSchema, sayHeard } from '../desk/district/heard';
import type { Place } from '../desk/district/keep-tried';
import type { TriedOut } from '../desk/district/types';
import { issuesText } from '../plain-issues';
import type { Said } from '../said';
import { setting } from './may-set';
import { readForm } from './read-form';

/** How a provider is tried and kept. */
interface Trying<T> {
	readonly schema: z.ZodType<T>;
	readonly set: (place: Place, user: User, input: T, anyway: boolean) => Promise<Said<TriedOut>>;
}

/** The most of one field that stands in the form again. */
const most = 320;

/** Tries what a form says of a provider. What was typed comes back with the answer, but for passwords. */
export async function tryForm<T>(request: Request, user: User, { schema, set }: Trying<T>) {
	const form = await readForm(request);
	const typed = Object.fromEntries(
		Object.entries(form).flatMap(([name, value]) =>
			typeof value === 'string' && name !== 'password' ? [[name, value.slice(0, most)]] : []
		)
	);
	const services = await setting(user);
	const parsed = schema.safeParse(form);
	if (!parsed.success) return fail(400, { typed, why: issuesText(parsed.error) });
	const came = await set(services, user, parsed.data, form.anyway === 'yes');
	if (!came.ok) return fail(400, { typed, why: came.why });
	return { typed, tried: came };
}

/** Says that what was sent to try a way has arrived. */
export async function heardForm(request: Request, user: User, way: WayOut) {
	const { db } = await setting(user);
	const parsed = codeSchema.safeParse((await readForm(request)).code);
	if (!parsed.success) return fail(400, { codeWhy: issuesText(parsed.error) });
	const came = await sayHeard(db, user, way, parsed.data);
	return came.ok ? { heard: true } : fail(400, { codeWhy: came.why });
}
