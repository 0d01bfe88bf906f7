import { z } from 'zod';
import { audienceSchema } from '../../../core/audience/audience';
import { wordingSchema } from '../../../core/copy/words';
import { noteSchema } from '../../../core/copy/note';
import type { Handling } from '../../../core/plan/handling';
import { stepsOf, turnsInUse, turnsSchema } from '../../../core/plan/turns';
import { usualWanted, wantedSchema } from '../../../core/plan/wanted';
import { dispatchKinds } from '../../../core/roster/types';
import { invitationSchema } from '../../../core/talk/invitation-schema';
import { holdMinutes as hold } from '../../../core/time/hold';
import { sheetEventSchema } from '../../../core/time/sheet-event';
import { timingSchema, usualTiming } from '../../../core/time/timing';
import { coverRules } from '../../../core/track/coverage';
import { may } from '../../access/may';
import type { User } from '../../access/user';
import { waySchema } from '../../../core/roster/way-schema';

const waysSchema = z
	.array(waySchema)
	.max(3)
	.transform((list) => [...new Set(list)]);
const idSchema = z.number().int().positive();

/** How the copies are made, as the sheet has it and the dispatch keeps it. What is missing is as usual. */
export const copiesSchema = z.object({
	perStudent: z.boolean().default(false),
	perPerson: z.boolean().default(false),
	waysByHand: z
		.array(
			z.object({ personId: idSchema, ways: waysSchema, by: z.string().max(200), at: z.number() })
		)
		.max(2000, 'For 2,000 people at most the ways are chosen by hand.')
		.default([]),
	/** One copy for whoever sends it. */
	toSender: z.boolean().default(false),
	/** One way for each person, the one tried least in the matter that is followed up. */
	leastTried: z.boolean().default(false),
	/** Whether the account of the whole comes by mail when it has ended; it stands in the sender's inbox anyway. */
	accountByMail: z.boolean().default(false),
	/** Staff who get one copy each for information. */
	toColleagues: z.array(idSchema).max(50, 'Copies go to 50 colleagues at most.').default([])
});
export type Copies = z.infer<typeof copiesSchema>;
export const usualCopies: Copies = copiesSchema.parse({});

/** What goes with the words: where answers go, what names the section, and files. */
export const letterSchema = z.object({
	/** Where answers are passed on to; empty for the sender's own address. Whether it is one is the standing check's business. */
	replyTo: z.string().max(320).default(''),
	/** Whether mail programs are asked to say that the letter was shown (a read receipt). */
	askReceipt: z.boolean().default(false),
	/** What was recorded for it. */
	note: noteSchema.nullable().default(null),
	sectionBefore: z.boolean().default(false),
	sectionLine: z.boolean().default(false),
	files: z
		.array(
			z.object({
				fileId: idSchema,
				mode: z.enum(['attach', 'link']),
				/** Not on a board that anybody can open. */
				private: z.boolean().default(false)
			})
		)
		.max(20, 'A dispatch has 20 files at most.')
		.default([])
});
export type LetterSettings = z.infer<typeof letterSchema>;
const usualLetter: LetterSettings = letterSchema.parse({});

/** Whether and when an announcement stands on the boards of its audience: instants, ms; null for "from when it leaves" and "until its end, or until it is taken off". */
export const boardSchema = z.object({
	on: z.boolean().default(true),
	from: z.number().nullable().default(null),
	until: z.number().nullable().default(null),
	pinned: z.boolean().default(false)
});
export type Board = z.infer<typeof boardSchema>;
export const usualBoard: Board = boardSchema.parse({});

/**
 * The sheet in Write as the browser sends it. It may be unfinished: empty wording is the standing
 * check's business. The bounds here only keep out what no sheet can be.
 */
export const sheetSchema = z.object({
	/** Made by the browser for each sheet: the same sheet sent twice is one dispatch. */
	sheetKey: z.uuid(),
	kind: z.enum(dispatchKinds).default('message'),
	audience: audienceSchema,
	ways: waysSchema,
	/** Ways that wait for those before them. */
	turns: turnsSchema.default([]),
	/** Who must have read before a student counts as covered. */
	cover: z.enum(coverRules).default('adult'),
	/** The earlier dispatch that this one follows up. */
	chases: idSchema.nullable().default(null),
	copies: copiesSchema.default(usualCopies),
	wording: wordingSchema,
	letter: letterSchema.default(usualLetter),
	board: boardSchema.default(usualBoard),
	invitation: invitationSchema,
	event: sheetEventSchema,
	timing: timingSchema.default(usualTiming),
	/** By when how many are to know. */
	wanted: wantedSchema.default(usualWanted),
	/** The hold of what leaves now. */
	holdMinutes: z.number()
});
export type Sheet = z.infer<typeof sheetSchema>;

/** A sheet as it is where nothing is said but to whom, by which ways and what: all ways at once, now after the usual hold, covered by any adult, following up nothing. */
export const sheetWith = (
	said: Pick<Sheet, 'sheetKey' | 'audience' | 'ways' | 'wording'> & Partial<Sheet>
): Sheet => ({
	kind: 'message',
	turns: [],
	cover: 'adult',
	chases: null,
	copies: usualCopies,
	letter: usualLetter,
	board: usualBoard,
	invitation: null,
	event: null,
	timing: usualTiming,
	wanted: usualWanted,
	holdMinutes: hold.default,
	...said
});

/** The part of a sheet that says who gets a copy, how and when: what the manifest is made from. */
export const sendingSchema = sheetSchema.pick({
	kind: true,
	audience: true,
	ways: true,
	turns: true,
	chases: true,
	copies: true,
	timing: true,
	holdMinutes: true
});
export type Sending = z.infer<typeof sendingSchema>;

/** How a sheet's copies are made, for the plan. */
export const handlingOf = (
	sending: Pick<Sending, 'ways' | 'turns' | 'chases' | 'kind' | 'copies'> & {
		readonly urgent: boolean;
	},
	user: User
): Handling => ({
	// Whoever may send urgently past quiet hours need not be let past what readers have declined.
	urgent: sending.urgent && may(user, 'send-urgently') && may(user, 'pass-over'),
	ways: sending.ways,
	kind: sending.kind,
	perStudent: sending.copies.perStudent,
	perPerson: sending.copies.perPerson,
	waysByHand: sending.copies.waysByHand,
	leastTried: sending.copies.leastTried && sending.chases !== null,
	steps: stepsOf(turnsInUse(sending.turns, sending.ways)),
	informed: [...(sending.copies.toSender ? [user.personId] : []), ...sending.copies.toColleagues]
});
