import { fail } from '@sveltejs/kit';
import { z } from 'zod';
import { beginFactor, confirmFactor } from '$lib/server/access/second-factor';
import { endSessions } from '$lib/server/access/sessions';
import { signIn } from '$lib/server/db/models/access';
import { ownSignIn } from '$lib/server/desk/work/me';
import { changePassword, changeSchema, codesAnew, factorOff } from '$lib/server/desk/work/own';
import { keepLook, lookOf, lookSchema } from '$lib/server/http/look';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, cookies }) => {
	const { db, key } = await services();
	return {
		own: await ownSignIn(db, key, locals.user!, locals.sessionId!),
		look: lookOf(cookies)
	};
};

type Part = 'password' | 'factor' | 'sessions' | 'look';
const no = (part: Part, why: string) => fail(400, { part, why, said: '', codes: [] as string[] });
const done = (part: Part, said: string, codes: readonly string[] = []) => ({
	...{ part, said, why: '', codes: [...codes] }
});
const codeSchema = z.object({
	code: z.string().trim().min(1, 'Write the code that your app shows now.').max(40)
});
const wordsOf = ({ issues }: z.ZodError) => issues.map((i) => i.message).join(' ');

export const actions: Actions = {
	password: async ({ request, locals, getClientAddress }) => {
		const parsed = changeSchema.safeParse(await readForm(request));
		if (!parsed.success) return no('password', wordsOf(parsed.error));
		const { db } = await services();
		const changed = await changePassword(
			...([db, locals.user!, locals.sessionId!, parsed.data, getClientAddress()] as const)
		);
		return changed.ok
			? done('password', 'Your password is changed. Every other session of yours has ended.')
			: no('password', changed.why);
	},
	look: async ({ request, cookies }) => {
		const parsed = lookSchema.safeParse((await readForm(request)).look);
		if (!parsed.success) return no('look', wordsOf(parsed.error));
		keepLook(cookies, (await services()).settings, parsed.data);
		return done('look', 'Pages look like this from now on, in this browser.');
	},
	begin: async ({ locals }) => {
		const { db, key } = await services();
		const { personId } = locals.user!;
		const { userName } = (await db.rows(signIn).one({ personId }))!;
		await beginFactor(db, key, { personId, userName });
		return done('factor', '');
	},
	confirm: async ({ request, locals }) => {
		const parsed = codeSchema.safeParse(await readForm(request));
		if (!parsed.success) return no('factor', wordsOf(parsed.error));
		const { db, key } = await services();
		const codes = await confirmFactor(db, key, locals.user!.personId, parsed.data.code);
		return codes
			? done('factor', 'Your second factor is on.', codes)
			: no('factor', 'That code does not fit. Write the one that your app shows now.');
	},
	codes: async ({ request, locals, getClientAddress }) => {
		const parsed = codeSchema.safeParse(await readForm(request));
		if (!parsed.success) return no('factor', wordsOf(parsed.error));
		const { db, key } = await services();
		const made = await codesAnew(db, key, locals.user!, parsed.data.code, getClientAddress());
		return made.ok
			? done('factor', 'Those of before are good no more.', made.codes)
			: no('factor', made.why);
	},
	off: async ({ request, locals, getClientAddress }) => {
		const parsed = codeSchema.safeParse(await readForm(request));
		if (!parsed.success) return no('factor', wordsOf(parsed.error));
		const { db, key } = await services();
		const off = await factorOff(db, key, locals.user!, parsed.data.code, getClientAddress());
		return off.ok ? done('factor', 'Your second factor is off.') : no('factor', off.why);
	},
	end: async ({ request, locals }) => {
		const parsed = z
			.object({ id: z.union([z.literal('others'), z.coerce.number().int().positive()]) })
			.safeParse(await readForm(request));
		if (!parsed.success) return no('sessions', 'There is no such session. Load the page again.');
		const { db } = await services();
		const { id } = parsed.data;
		const { personId } = locals.user!;
		const n = await db.write((tx) =>
			endSessions(
				tx,
				personId,
				id === 'others' ? { but: locals.sessionId } : { only: id },
				locals.user!
			)
		);
		return done(
			'sessions',
			n === 0
				? 'That session had ended already.'
				: n === 1
					? 'One session has ended.'
					: `${n} sessions have ended.`
		);
	}
};
