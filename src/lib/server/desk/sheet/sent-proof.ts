import { z } from 'zod';

/** A proof that was sent to its writer, as it stands in the database. */
export const sentProofSchema = z.object({
	subject: z.string(),
	html: z.string(),
	text: z.string(),
	language: z.string(),
	pictureIds: z.array(z.number()),
	attachedIds: z.array(z.number()),
	fromName: z.string(),
	replyTo: z.string().nullable()
});
export type SentProof = z.infer<typeof sentProofSchema>;
