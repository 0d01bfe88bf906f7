import { error } from '@sveltejs/kit';

/** What a form holds, by the names of its fields; still bad input until Zod has seen it. */
export type Form = Readonly<Record<string, FormDataEntryValue>>;

/** Reads the body of a request that a form should have sent. A body that is none ends the request with 400 in words; nothing is changed by it. */
export async function readFormData(request: Request): Promise<FormData> {
	try {
		return await request.formData();
	} catch {
		error(400, 'What was sent is no form that can be read. Load the page again and try once more.');
	}
}

/** The same where each field stands once. */
export const readForm = async (request: Request): Promise<Form> =>
	Object.fromEntries(await readFormData(request));
