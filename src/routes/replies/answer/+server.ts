import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { answerBack, ourAnswerSchema } from '$lib/server/desk/replies/answer-back';
import { callBackAnswer } from '$lib/server/desk/replies/call-back-answer';
import { readJson } from '$lib/server/http/read-json';
import { services } from '$lib/server/services';

/** Answers one conversation, or several the same. 409 with why where it cannot be. */
export const POST = async ({ request, locals }) => {
	const said = await readJson(request, ourAnswerSchema);
	const { db, key } = await services();
	const answered = await answerBack(db, key, locals.user!, said);
	return json(answered, { status: answered.ok ? 200 : 409 });
};

const calledSchema = z.object({ dispatch: z.number().int().positive() });

/** Calls an answer back that has not left, and gives its words back. */
export const DELETE = async ({ request, locals }) => {
	const { dispatch } = await readJson(request, calledSchema);
	const { db } = await services();
	const called = await callBackAnswer(db, locals.user!, dispatch);
	return json(called, { status: called.ok ? 200 : 409 });
};
