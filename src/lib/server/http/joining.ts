import { error } from '@sveltejs/kit';
import { z } from 'zod';
import type { User } from '../access/user';
import { joiningHead, joiningView } from '../desk/joining/joiners';
import type { JoiningView, WaysIn } from '../desk/joining/types';
import { outside, services } from '../services';

const notHere = 'There is no such group, or another office looks after it.';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);

/** The number of the group in an address; the request ends where there is none. */
export function groupIdOf(params: { readonly id?: string }): number {
	const id = idSchema.safeParse(params.id);
	if (!id.success) error(404, 'There is no such group.');
	return id.data;
}

/** Who joins the group of an address; the request ends where the user does not look after it. */
export async function joiningOf(
	user: User,
	params: { readonly id?: string }
): Promise<JoiningView> {
	const { db } = await services();
	const view = await joiningView(db, user, groupIdOf(params), await outside());
	if (!view) error(404, notHere);
	return view;
}

/** How the group of an address is joined, and how many are in; the request ends where it is not open. */
export async function waysOf(
	user: User,
	params: { readonly id?: string }
): Promise<{ readonly ways: WaysIn; readonly within: number }> {
	const { db } = await services();
	const head = await joiningHead(db, user, groupIdOf(params), await outside());
	if (!head) error(404, notHere);
	if (!head.ways) error(404, 'This group is not open: nobody joins it by a code.');
	return { ways: head.ways, within: head.counts.in };
}
