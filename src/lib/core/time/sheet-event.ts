import { z } from 'zod';
import { localTimeSchema } from './timing';

/** What a sheet puts into the calendar beside being sent: of whom it is follows from its audience. Null where it puts nothing there. */
export const sheetEventSchema = z
	.object({
		/** Empty for the subject of the sheet. */
		title: z.string().max(200, 'The title of an event has 200 characters at most.').default(''),
		startsLocal: localTimeSchema,
		endsLocal: localTimeSchema,
		allDay: z.boolean().default(false),
		place: z.string().max(200, 'A place has 200 characters at most.').default('')
	})
	.nullable()
	.default(null);
export type SheetEvent = z.infer<typeof sheetEventSchema>;
