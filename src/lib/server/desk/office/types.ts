import type { LongHold } from '../../db/long-holds';
import { z } from 'zod';
import type { WayOut, Way } from '../../../core/roster/way';

/** How the courier and its ways stand, as the screens say it. */
export interface CourierStatus {
	readonly atWork: boolean;
	/** Ways whose provider is not there, with why and since when (instant, ms); `unset` where nobody has said which it is. */
	readonly down: readonly { way: WayOut; why: string; since: number; unset: boolean }[];
	/** Whether nothing leaves until somebody has looked at a database that was put back. */
	readonly held: boolean;
}

/** What waits, what goes, and what went wrong, by way. */
export interface WayHealth {
	readonly way: Way;
	readonly working: boolean;
	readonly why: string;
	/** Since when it stands so (instant, ms); null where nothing is known yet. */
	readonly since: number | null;
	/** How long it is slowed down, ms. */
	readonly slowMs: number;
	/** Copies whose time has come, and since when the oldest of them waits. */
	readonly due: number;
	readonly oldestDueAt: number | null;
	/** Copies that were put off and are tried again. */
	readonly putOff: number;
	/** Copies that left within the last hour, and in the last minute of it. */
	readonly leftInHour: number;
	readonly leftInMinute: number;
	readonly failedInDay: number;
}

export interface CourierHealth extends CourierStatus {
	/** Machine's time, ms; null where no courier has ever been at work here. */
	readonly beatAt: number | null;
	readonly startedAt: number | null;
	readonly pid: number | null;
	readonly ways: readonly WayHealth[];
	/** What went wrong last in the courier itself, and when (machine's time, ms); empty where nothing did. */
	readonly trouble: string;
	readonly troubleAt: number;
	/** What other mail systems have against us as a sender, in a day: one trouble of the way, and no fault of the mailboxes. */
	readonly againstUs: readonly {
		readonly copies: number;
		readonly detail: string;
		readonly at: number;
	}[];
	/** Copies that were handed over more than once without an answer, and wait for somebody to look; by dispatch. */
	readonly unsure: readonly {
		readonly id: number;
		readonly subject: string;
		readonly copies: number;
	}[];
	/** Reports that came back about other addresses than those written to, in a week. */
	readonly otherReports: number;
	/** Receipts of texts that nobody knows, since the courier began. */
	readonly strangers: number;
	/** Letters to the staff that wait, and that could not be sent. */
	readonly notices: { readonly waiting: number; readonly failed: number };
	/** Last evidence that came in from outside (instant, ms). */
	readonly lastReceiptAt: number | null;
	/** How often in a day the write lock was held so long that others felt it (longer than so many ms), and the longest of them; null where never. */
	readonly lock: {
		readonly feltMs: number;
		readonly times: number;
		/** Whether it was oftener than that. */
		readonly more: boolean;
		readonly longest: LongHold | null;
	};
	/** Time of the job, ms. */
	readonly now: number;
	readonly machineNow: number;
}

export interface StandinView {
	/** Null where the stand-in does not answer. */
	readonly mail: {
		readonly count: number;
		readonly letters: readonly StandinLetter[];
		readonly faults: readonly z.infer<typeof mailboxSchema>[];
	} | null;
	readonly phone: {
		readonly count: number;
		readonly texts: readonly StandinText[];
		readonly faults: readonly z.infer<typeof phoneSchema>[];
	} | null;
}

/** What arrived at the stand-ins, for the demo's own page. They are asked over HTTP, like any outside service. */
export const letterSchema = z.object({
	number: z.number(),
	to: z.string(),
	from: z.string(),
	subject: z.string(),
	date: z.string(),
	repeat: z.boolean(),
	text: z.string()
});

export const textSchema = z.object({
	number: z.number(),
	to: z.string(),
	text: z.string(),
	arrived: z.boolean()
});

type StandinLetter = z.infer<typeof letterSchema>;

type StandinText = z.infer<typeof textSchema>;

export const mailboxFaults = ['refuse', 'return', 'later', 'full'] as const;

export const phoneFaults = ['dead', 'off', 'refuse', 'busy'] as const;

export const mailboxSchema = z.object({ mailbox: z.string(), fault: z.enum(mailboxFaults) });

export const phoneSchema = z.object({ phone: z.string(), fault: z.enum(phoneFaults) });

/** A chapter of Settings. */
export interface Chapter {
	readonly path: string;
	readonly name: string;
}
