import { z } from 'zod';
import { count } from '../../../core/copy/count';
import {
	colourPattern,
	contrast,
	leastContrast,
	logoLimitBytes
} from '../../../core/copy/letterhead';
import type { District } from '../../db/district';
import { file } from '../../db/models/dispatch';
import { line } from '../hand/fields';
import type { Form } from './form';

/** Kinds of pictures that mail programs show; WebP is shown by some (common practice). */
const shown = ['image/png', 'image/jpeg', 'image/gif'];

/** A logo as its field has it: the number of its file, and its size in px. */
const logoSchema = z.union(
	[
		z.literal('').transform(() => null),
		z
			.string()
			.regex(/^[1-9]\d{0,9} [1-9]\d{0,4} [1-9]\d{0,4}$/)
			.transform((text) => {
				const [fileId, width, height] = text.split(' ').map(Number) as [number, number, number];
				return { fileId, width, height };
			})
	],
	'Choose the logo again.'
);

/** The form of what stands around every email. */
export const letterheadForm: Form<District> = {
	name: 'Letterhead',
	says: 'Stands around every announcement and message that leaves by email from now on, also of what is scheduled. Texts and the inbox have none.',
	fields: [
		{
			...{ name: 'logo', label: 'Logo', kind: 'picture' },
			help: 'PNG, JPEG or GIF up to 300 kB; it stands up to 320 by 96 px large and goes with each email.'
		},
		{
			...{ name: 'colour', label: 'Colour of the rule above, and of links', kind: 'colour' },
			help: 'Dark enough to be read on white.'
		},
		{
			...{ name: 'footer', label: 'Below every email', kind: 'lines' },
			help: 'The district’s address, how to reach its office. Twelve lines at most.'
		}
	],
	valuesOf: ({ letterhead: { logo, colour, footer } }) => ({
		logo: logo ? `${logo.fileId} ${logo.width} ${logo.height}` : '',
		...{ colour, footer: footer.join('\n') }
	}),
	schema: z
		.object({
			logo: logoSchema,
			colour: z
				.string()
				.toLowerCase()
				.regex(colourPattern, 'The colour is written like #0f5c63.')
				.refine((colour) => contrast(colour, '#ffffff') >= leastContrast, {
					error: ({ input }) =>
						`The colour is too light for words on white: its contrast is ${(Math.floor(contrast(String(input), '#ffffff') * 10) / 10).toFixed(1)}, and ${leastContrast} is the least (WCAG 2.2).`
				}),
			footer: z
				.string()
				.max(4000, 'What stands below is too long.')
				.transform((typed) => typed.split(/\r?\n/).map((l) => l.trim()))
				.transform((lines) => lines.slice(0, lines.findLastIndex((l) => l !== '') + 1))
				.pipe(z.array(line('A line', 200)).max(12, 'There are 12 lines at most below an email.'))
		})
		.transform((letterhead) => ({ letterhead })),
	async look(db, user, { letterhead }, before) {
		const logo = letterhead?.logo;
		if (!logo || logo.fileId === before.letterhead.logo?.fileId) return null;
		const row = await db.rows(file).one({ id: logo.fileId });
		const known = await db.one(
			`SELECT 1 FROM setting_change WHERE chapter = 'letterhead' AND before ->> '$.logo' = $logo`,
			{ logo: `${logo.fileId} ${logo.width} ${logo.height}` }
		);
		if (!row || (row.ownerId !== user.personId && !known))
			return 'The logo is not there any more. Choose it again.';
		if (row.width !== logo.width || row.height !== logo.height || !shown.includes(row.type))
			return 'Not every mail program shows such a picture. Choose a PNG, JPEG or GIF.';
		return row.bytes > logoLimitBytes
			? `The logo has ${count(Math.ceil(row.bytes / 1000))} kB; it goes with every email, so 300 kB is the most.`
			: null;
	}
};
