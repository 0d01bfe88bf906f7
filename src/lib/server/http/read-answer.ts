import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { now } from '../clock';
import { keepAnswerFiles, roomForFiles } from '../desk/replies/answer-files';
import type { Written } from '../desk/replies/from-inbox';
import { readDistrict } from '../db/district';
import type { Services } from '../services';

/** Files that one answer from the page brings along. */
const mostFiles = 5;

const writtenSchema = z.object({
	/** Where the page runs no script there is none: then what is sent twice is there twice. */
	key: z.uuid().catch(() => crypto.randomUUID()),
	words: z
		.string()
		.max(5_000)
		.transform((words) => words.replace(/\0/g, '').replace(/\r\n?/g, '\n').trim())
		.catch('')
});

/** What a family wrote on its page, its files kept; the other fields of the form beside it. `nothing` where there are neither words nor files. */
export async function readWritten(
	s: Services,
	personId: number,
	request: Request
): Promise<{ written: Written; nothing: boolean; field: (name: string) => string }> {
	let form: FormData;
	try {
		form = await request.formData();
	} catch {
		error(400, 'What was sent is no form that can be read. Load the page again and try once more.');
	}
	const field = (name: string) => {
		const value = form.get(name);
		return typeof value === 'string' ? value : '';
	};
	const { key, words } = writtenSchema.parse({ key: field('key'), words: field('words') });
	const files = form
		.getAll('files')
		.filter((f): f is File => typeof f !== 'string' && f.size > 0)
		.slice(0, mostFiles);
	const limit = (await readDistrict(s.db)).fileLimitMegabytes * 1e6;
	const kept = await keepAnswerFiles(
		s.settings.dataFolder,
		await Promise.all(
			files.map(async (f) => ({
				name: f.name.slice(0, 200),
				content: new Uint8Array(await f.arrayBuffer())
			}))
		),
		limit,
		await roomForFiles(s.db, { personId }, await now(s.db))
	);
	return {
		written: { key, words, files: kept },
		nothing: words === '' && kept.length === 0,
		field
	};
}
