import { fail, type RequestEvent } from '@sveltejs/kit';
import { may } from '$lib/server/access/may';
import { invite, inviteSchema } from '$lib/server/desk/joining/invite';
import {
	answerClaim,
	claimSchema,
	joinerIdSchema,
	letAskAgain,
	takeJoinerOut
} from '$lib/server/desk/joining/look-after';
import { closeGroup, openGroup, openSchema } from '$lib/server/desk/joining/open-group';
import type { Invited } from '$lib/server/desk/joining/types';
import { groupIdOf, joiningOf } from '$lib/server/http/joining';
import { readForm } from '$lib/server/http/read-form';
import { workOutAhead } from '$lib/server/http/roster-work';
import type { Said } from '$lib/server/said';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';
import type { ZodType } from 'zod';

export const load: PageServerLoad = async ({ params, locals }) => {
	const user = locals.user!;
	const joining = await joiningOf(user, params);
	return { joining, mayCorrect: may(user, 'correct-people') && joining.goneAt === null };
};

/** What an act came to, all in one shape for the page. */
interface Answer {
	readonly said: string;
	readonly why: string;
	/** What of it: the part of the page that shows it. */
	readonly about: 'open' | 'invite' | 'list';
	readonly invited: Invited | null;
}
const answer = (about: Answer['about'], over: Partial<Answer>): Answer => ({
	...{ said: '', why: '', about, invited: null },
	...over
});

/** Reads a form, does something with it to the group of the page, and says what came of it. */
const act =
	<T, R>(
		about: Answer['about'],
		schema: ZodType<T>,
		work: (at: { event: RequestEvent; groupId: number; said: T }) => Promise<Said<R>>,
		words: (done: R) => Partial<Answer>,
		changes = true
	) =>
	async (event: RequestEvent) => {
		const parsed = schema.safeParse(await readForm(event.request));
		if (!parsed.success)
			return fail(400, answer(about, { why: parsed.error.issues.map((i) => i.message).join(' ') }));
		const done = await work({ event, groupId: groupIdOf(event.params), said: parsed.data });
		if (!done.ok) return fail(409, answer(about, { why: done.why }));
		if (changes) workOutAhead();
		return answer(about, words(done));
	};

const db = async () => (await services()).db;

export const actions: Actions = {
	open: act(
		'open',
		openSchema,
		async ({ event, groupId, said }) => openGroup(await db(), event.locals.user!, groupId, said),
		({ code }) => ({ said: `The group is open: its code is ${code}.` })
	),
	close: act(
		'open',
		joinerIdSchema.partial(),
		async ({ event, groupId }) => closeGroup(await db(), event.locals.user!, groupId),
		() => ({ said: 'Nobody joins by the code any more. Who is in stays in.' })
	),
	invite: act(
		'invite',
		inviteSchema,
		async ({ event, groupId, said }) => invite(await db(), event.locals.user!, groupId, said),
		({ invited, not }) => ({
			said: `${invited} ${invited === 1 ? 'invitation leaves' : 'invitations leave'} by mail.`,
			invited: { invited, not }
		}),
		false
	),
	takeOut: act(
		'list',
		joinerIdSchema,
		async ({ event, groupId, said }) =>
			takeJoinerOut(await db(), event.locals.user!, groupId, said.id),
		() => ({ said: 'Taken out. This address does not come in again by itself.' })
	),
	letAskAgain: act(
		'list',
		joinerIdSchema,
		async ({ event, groupId, said }) =>
			letAskAgain(await db(), event.locals.user!, groupId, said.id),
		() => ({ said: 'This address may join again by the code.' })
	),
	claim: act(
		'list',
		claimSchema,
		async ({ event, groupId, said }) => answerClaim(await db(), event.locals.user!, groupId, said),
		() => ({ said: 'Written down with your name.' })
	)
};
