import { z } from 'zod';

/** What the forms of people have in common, as Zod takes it. */

export const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
export const yesNo = z.enum(['yes', 'no']);
export const flag = (answer: 'yes' | 'no'): 0 | 1 => (answer === 'yes' ? 1 : 0);

// Control characters and marks that turn the direction of what follows: a name holds none.
const unseen = /[\p{Cc}\u202a-\u202e\u2066-\u2069]/u;

/** A line of words, of so many characters at most. */
export const line = (what: string, most: number) =>
	z
		.string()
		.trim()
		.max(most, `${what} is over ${most} characters. Shorten it.`)
		.refine((text) => !unseen.test(text), `${what} holds a character that cannot be seen.`);

export const namePart = (what: string) => line(what, 200).min(1, `${what} is empty. Write it.`);

export const relationSchema = line('The relation', 80).min(
	1,
	'Say what they are to the student: mother, uncle, neighbour.'
);

/** A relation is kept in small letters: audiences ask for it word by word. */
const tieRelation = relationSchema.transform((word) => word.toLowerCase());

/** What an adult is to a student; custody `unsaid` leaves it open: they are left out until somebody says it. */
export const tieFields = {
	relation: tieRelation,
	guardian: yesNo,
	custody: z.enum(['yes', 'no', 'unsaid']),
	correspondence: yesNo,
	emergency: yesNo
};
