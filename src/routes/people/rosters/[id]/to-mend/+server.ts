import contentDisposition from 'content-disposition';
import { error } from '@sveltejs/kit';
import { Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import { z } from 'zod';
import { isAllowed } from '$lib/server/access/may';
import { now } from '$lib/server/clock';
import { linesToMend } from '$lib/server/desk/roster/to-mend';
import { fileView } from '$lib/server/desk/roster/views';
import { services } from '$lib/server/services';

/** The wrong lines as tables to be mended and brought again. */
export const GET = async ({ params, locals }) => {
	const id = z.coerce.number().int().positive().safeParse(params.id);
	if (!id.success || !isAllowed(locals.user!, 'bring-roster'))
		error(404, 'There is no such roster.');
	const { db, settings } = await services();
	const view = await fileView(db, id.data);
	const files =
		view?.looked &&
		(await linesToMend(settings.dataFolder, id.data, {
			version: view.looked.version,
			at: new Date(await now(db)).toISOString()
		}));
	if (!view || !files) error(404, 'This roster has to be looked at again first.');
	const name = `${view.name.replace(/\.\w+$/, '')}-to-mend`;
	const [list] = files;
	// A list is brought as one file, and so is what of it is to be mended.
	if (list && files.length === 1)
		return new Response(list.text, {
			headers: {
				'content-type': 'text/csv; charset=utf-8',
				'content-disposition': contentDisposition(`${name}.csv`)
			}
		});
	const zip = new ZipFile();
	for (const file of files) zip.addBuffer(Buffer.from(file.text), file.name);
	zip.end();
	return new Response(Readable.toWeb(zip.outputStream as Readable) as ReadableStream, {
		headers: {
			'content-type': 'application/zip',
			'content-disposition': contentDisposition(`${name}.zip`)
		}
	});
};
