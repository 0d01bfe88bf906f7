import { z } from 'zod';
import { mostTogether } from './invitation';

const placesSchema = z.number().int().min(1).max(100_000).nullable().default(null);

/** One of the times that can be chosen from. */
const slotSchema = z.object({
	/** Its number in this invitation: it stays when others are taken out. */
	id: z.number().int().min(1).max(100_000),
	/** When it begins (instant, ms); null where only words say it. */
	at: z.number().nullable().default(null),
	words: z.string().max(120, 'What is said of a time has 120 characters at most.').default(''),
	/** How many can come to it; null for as many as come. */
	places: placesSchema
});
export type Slot = z.infer<typeof slotSchema>;

/** What is asked: "coming?", how many, to which time, until when. */
const askingSchema = z.object({
	kind: z.literal('asks'),
	/** Until when it can be answered (instant, ms); null while nobody has said it, which the standing check says. */
	until: z.number().nullable().default(null),
	/** How many can come over all; null for as many as come. */
	places: placesSchema,
	/** Times to choose from; none where there is one for all. */
	slots: z.array(slotSchema).max(200, 'There are 200 times to choose from at most.').default([]),
	/** How many can come together. */
	most: z.number().int().min(1).max(mostTogether).default(10),
	/** Whether anybody with its link can say that they come, not only those who are written to. */
	anybody: z.boolean().default(false)
});
export type Asking = z.infer<typeof askingSchema>;

/** What a sheet asks its readers: of its own, or about an earlier dispatch that asked, as a reminder does; null where it asks nothing. */
export const invitationSchema = z
	.discriminatedUnion('kind', [
		askingSchema,
		z.object({ kind: z.literal('about'), dispatchId: z.number().int().positive() })
	])
	.nullable()
	.default(null);
export type Invitation = z.infer<typeof invitationSchema>;
