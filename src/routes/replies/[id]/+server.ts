import { error, json } from '@sveltejs/kit';
import { z } from 'zod';
import {
	aside,
	markUnread,
	passOn,
	settle,
	takeBackFrom,
	waitAgain,
	type Done
} from '$lib/server/desk/replies/act';
import { answeredByPerson } from '$lib/server/desk/replies/answer-by-person';
import { forwardCopy, forwardSchema } from '$lib/server/desk/replies/forward';
import { moveAnswer } from '$lib/server/desk/replies/move-answer';
import { readJson } from '$lib/server/http/read-json';
import { services } from '$lib/server/services';

const idSchema = z.coerce.number().int().positive();
const personSchema = z.number().int().positive();
const actSchema = z.discriminatedUnion('act', [
	z.object({ act: z.literal('settle') }),
	z.object({ act: z.literal('wait-again') }),
	z.object({ act: z.literal('unread') }),
	/** Until an instant, ms. */
	z.object({ act: z.literal('aside'), until: z.number().int() }),
	z.object({ act: z.literal('pass-on'), to: personSchema }),
	z.object({ act: z.literal('take-back'), from: personSchema }),
	z.object({ act: z.literal('by-person'), answer: personSchema }),
	z.object({ act: z.literal('forward'), ...forwardSchema.shape }),
	/** A text is about another dispatch. */
	z.object({ act: z.literal('move'), answer: personSchema, dispatch: personSchema })
]);

/** What is done to one conversation. 409 with why where it cannot be. */
export const POST = async ({ params, request, locals }) => {
	const id = idSchema.safeParse(params.id);
	if (!id.success) error(404, 'There is no conversation at this address.');
	const wanted = await readJson(request, actSchema);
	const { db } = await services();
	const done = await act(wanted);
	return json(done, { status: done.ok ? 200 : 409 });

	async function act(what: z.infer<typeof actSchema>): Promise<Done> {
		const user = locals.user!;
		switch (what.act) {
			case 'settle':
				return settle(db, user, [id.data!]);
			case 'wait-again':
				return waitAgain(db, user, id.data!);
			case 'unread':
				return markUnread(db, user, id.data!);
			case 'aside':
				return aside(db, user, id.data!, what.until);
			case 'pass-on':
				return passOn(db, user, id.data!, what.to);
			case 'take-back':
				return takeBackFrom(db, user, id.data!, what.from);
			case 'forward':
				return forwardCopy(db, user, id.data!, what);
			case 'move':
				return moveAnswer(db, user, what.answer, what.dispatch);
			case 'by-person':
				return (await answeredByPerson(db, user, what.answer))
					? { ok: true, n: 1 }
					: { ok: false, why: 'There is no such answer in doubt (any more). Load the page again.' };
		}
	}
};
