import { z } from 'zod';
import { line } from '../hand/fields';

/** The name of a machine (RFC 1123 section 2.1), or its number. */
export const hostSchema = (what: string) =>
	line(what, 253)
		.toLowerCase()
		.regex(
			/^([a-z0-9]([a-z0-9-]*[a-z0-9])?(\.[a-z0-9]([a-z0-9-]*[a-z0-9])?)*|\[[0-9a-f:.]+\])$/,
			`${what} is the name of a machine, as mail.example, without anything before or behind it.`
		);

export const portSchema = z.coerce
	.number('The port is a number, from 1 to 65535.')
	.int('The port is a number, from 1 to 65535.')
	.min(1, 'The port is a number, from 1 to 65535.')
	.max(65_535, 'The port is a number, from 1 to 65535.');
