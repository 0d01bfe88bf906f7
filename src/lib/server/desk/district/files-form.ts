import { z } from 'zod';
import type { District } from '../../db/district';
import type { Form } from './form';
import { number } from './form-fields';

/** The form of how large files and letters may be. */
export const filesForm: Form<District> = {
	name: 'Files',
	says: 'For files that are put in from now on; what is in a sheet stays in it.',
	fields: [
		{ name: 'file', label: 'A file is taken up to', kind: 'number', unit: 'MB' },
		{
			...{ name: 'mail', label: 'Mail systems refuse a letter over', kind: 'number', unit: 'MB' },
			help: 'What is larger is a link in the letter. 25 is common practice.'
		}
	],
	valuesOf: ({ fileLimitMegabytes, mailLimitMegabytes }) => ({
		file: String(fileLimitMegabytes),
		mail: String(mailLimitMegabytes)
	}),
	schema: z
		.object({
			// What the web server takes at all is a little more (BODY_SIZE_LIMIT, 24 MB).
			file: number('The largest file', 1, 100, 'MB'),
			mail: number('The largest letter', 1, 200, 'MB')
		})
		.transform(({ file, mail }) => ({ fileLimitMegabytes: file, mailLimitMegabytes: mail }))
};
