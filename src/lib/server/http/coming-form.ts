import { z } from 'zod';

/** A number of people as a field holds it; an empty one is none. */
const people = z
	.union([z.literal('').transform(() => 0), z.coerce.number().int().min(0).max(1000)])
	.default(0);

/** What a form says of who comes. */
export const comingFormSchema = z
	.object({
		coming: z.enum(['yes', 'no']),
		adults: people,
		students: people,
		slot: z.coerce.number().int().min(1).nullable().catch(null).default(null)
	})
	.transform(({ coming, ...rest }) => ({ ...rest, comes: coming === 'yes' }));
