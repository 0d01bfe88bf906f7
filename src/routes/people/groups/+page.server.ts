import { schoolsOf } from '$lib/server/access/rights';
import { fail, redirect } from '@sveltejs/kit';
import { isAllowed, may } from '$lib/server/access/may';
import { groupSchema, makeGroup } from '$lib/server/desk/groups/change-group';
import { groupList } from '$lib/server/desk/groups/groups';
import { formLists } from '$lib/server/desk/hand/form-lists';
import { takeCards, takeCardsSchema } from '$lib/server/desk/joining/from-cards';
import type { SeenCards } from '$lib/server/desk/joining/types';
import { workOutAhead } from '$lib/server/http/roster-work';
import { ask } from '$lib/server/planner/planner';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const { db } = await services();
	const user = locals.user!;
	return {
		groups: await groupList(db, user),
		lists: may(user, 'correct-people') ? await formLists(db, user) : null,
		ownSchool: schoolsOf(user)[0] ?? null
	};
};

/** What an act came to, all in one shape for the page. */
interface Answer {
	readonly why: string;
	readonly whyCards: string;
	readonly said: string;
	readonly not: readonly string[];
	readonly seen: SeenCards | null;
}
const answer = (over: Partial<Answer>): Answer => ({
	...{ why: '', whyCards: '', said: '', not: [], seen: null },
	...over
});

export const actions: Actions = {
	make: async ({ request, locals }) => {
		const parsed = groupSchema.safeParse(await readForm(request));
		if (!parsed.success)
			return fail(400, answer({ why: parsed.error.issues.map((i) => i.message).join(' ') }));
		const { db } = await services();
		const made = await makeGroup(db, locals.user!, parsed.data);
		if (!made.ok) return fail(409, answer({ why: made.why }));
		redirect(303, `/people/groups/${made.id}`);
	},
	/** Looks at cards first: nothing is changed by it. */
	lookAtCards: async ({ request, locals }) => {
		const { list: file } = await readForm(request);
		if (!(file instanceof File) || file.size === 0)
			return fail(400, answer({ whyCards: 'Choose a file of cards (.vcf).' }));
		if (!isAllowed(locals.user!, 'correct-people'))
			return fail(403, answer({ whyCards: 'Ask the school office.' }));
		const seen = await ask('cardsSeen', locals.user!, new Uint8Array(await file.arrayBuffer()));
		return seen.ok ? answer({ seen }) : fail(400, answer({ whyCards: seen.why }));
	},
	takeCards: async ({ request, locals }) => {
		const form = await request.formData().catch(() => null);
		const parsed = takeCardsSchema.safeParse({
			cards: form?.get('cards'),
			groups: form?.getAll('group')
		});
		if (!parsed.success)
			return fail(400, answer({ whyCards: parsed.error.issues.map((i) => i.message).join(' ') }));
		const { db } = await services();
		const taken = await takeCards(db, locals.user!, parsed.data);
		if (!taken.ok) return fail(409, answer({ whyCards: taken.why }));
		workOutAhead();
		const { people, groups, not } = taken;
		return answer({
			said: `${people} ${people === 1 ? 'person' : 'people'} came into ${groups} ${groups === 1 ? 'group' : 'groups'}, written down with your name.`,
			not
		});
	}
};
