import { z } from 'zod';

/** How long a note may be, ms: longer ones are heard by nobody to their end (common practice: one to three minutes). */
export const mostNoteMs = { voice: 180_000, video: 120_000 } as const;

/** A note that was recorded and goes with a letter: its sound or film, and what is said in it. */
export const noteSchema = z.object({
	fileId: z.number().int().positive(),
	kind: z.enum(['voice', 'video']),
	/** Its length, ms. */
	ms: z.number().int().min(1).max(mostNoteMs.voice),
	/** What is said in it, for those who do not hear it; whether there is something is the standing check's business. */
	words: z.string().max(5_000, 'What is said in a note has 5,000 characters at most.').default(''),
	/** What stands for it in an email. */
	picture: z
		.object({
			fileId: z.number().int().positive(),
			width: z.number().int().min(1).max(4_000),
			height: z.number().int().min(1).max(4_000)
		})
		.nullable()
		.default(null)
});
export type Note = z.infer<typeof noteSchema>;

/** "0:42". */
export const noteLength = (ms: number): string => {
	const seconds = Math.max(1, Math.round(ms / 1000));
	return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
};
