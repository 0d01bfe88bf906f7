import { error } from '@sveltejs/kit';
import type { z } from 'zod';

/** Reads a JSON body and checks it. Bad input is answered with 400 and what is wrong, where. */
export async function readJson<T extends z.ZodType>(
	request: Request,
	schema: T
): Promise<z.infer<T>> {
	let body: unknown;
	try {
		body = await request.json();
	} catch {
		error(400, 'The request is not valid JSON.');
	}
	const parsed = schema.safeParse(body);
	if (parsed.success) return parsed.data;
	error(
		400,
		parsed.error.issues.map((i) => `${i.path.join('.') || 'request'}: ${i.message}`).join(' ')
	);
}
