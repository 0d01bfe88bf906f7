import type { Asks, PageAsks } from '../../../core/copy/asks';
import type { Note } from '../../../core/copy/note';
import type { NoBoard } from '../../../core/audience/boards';
import type { Tally } from '../../../core/plan/tally';
import type { StudentLeftLine } from '../track/types';
import type { TextLength } from '../../../core/copy/segments';
import type { InboxLetter, LetterFile, EmailLetter } from '../../../core/copy/letter';
import type { TimesTally } from '../../../core/plan/times';
import type { Moment } from '../../../core/time/timing';
import type { Check } from '../../../core/plan/check';
import type { ExpectLine } from '../expect/types';
import type { LineCount } from '../../../core/audience/resolved';
import type { LanguageCount } from '../../../core/plan/check-wording';
import type { KeptFile } from '../sheet/types';
import type { CopyFacts } from '../../../core/copy/values';
import { z } from 'zod';
import { ways, type Way } from '../../../core/roster/way';

/** What moving one dispatch to each day of a window does to the load. */
export interface MoveEffect {
	readonly date: string;
	/** Families over the limit on that day, before and after; of the day it stands on, with it and without. */
	readonly before: number;
	readonly after: number;
	/** Messages over the limit it takes away over all days (negative: it adds). */
	readonly relief: number;
}

/** One person of the manifest, with everything the plan knows about them. */
export interface ManifestPerson {
	readonly personId: number;
	readonly name: string;
	readonly givenName: string;
	readonly familyName: string;
	/** The tag of the language they want to read. */
	readonly language: string;
	/** "mother of Ana and Rui". */
	readonly relation: string;
	readonly sections: readonly string[];
	/** How many students they are written to for. */
	readonly students: number;
	readonly copies: readonly {
		readonly way: Way;
		/** The tag of the language its words are in. */
		readonly reads: string;
		readonly address: string | null;
		readonly sharedWith: string;
		/** Given names of the students this copy speaks of, where each has one of their own. */
		readonly about: string;
		/** When quiet hours let it leave, in words; empty where it leaves with the rest. */
		readonly later: string;
	}[];
	readonly notBy: readonly { readonly way: Way; readonly reason: string }[];
	/** Why they are in: each line that meant them, as its words. */
	readonly why: readonly string[];
	/** Why they get nothing; empty for those who get a copy. */
	readonly leftOut: readonly string[];
	/** Students for whom they get no copy while they do for others, with the reasons: "Rui: Guardian without custody". */
	readonly notFor: readonly string[];
	/** Every reason that touches them, by its key, for the filter. */
	readonly reasons: readonly string[];
}

export interface ManifestHousehold {
	/** The same for the same household, however the list is narrowed. */
	readonly key: string;
	readonly name: string;
	readonly people: readonly ManifestPerson[];
}

/** A value to filter by, and how many people have it. */
export interface Facet {
	readonly value: string;
	readonly word: string;
	readonly people: number;
}

export interface ManifestPage {
	readonly tally: Tally;
	/** The audience as a sentence. */
	readonly words: string;
	readonly households: readonly ManifestHousehold[];
	/** The first students of whom no copy speaks; the tally has how many there are of each kind. */
	readonly studentsLeft: readonly StudentLeftLine[];
	readonly page: number;
	readonly pages: number;
	/** People that fit the filter, the households they are in, and people in all. */
	readonly found: number;
	readonly foundHouseholds: number;
	readonly all: number;
	readonly languages: readonly Facet[];
	readonly reasons: readonly Facet[];
	readonly sections: readonly Facet[];
}

/** Someone as whom a sheet can be looked at. */
export interface ProofReader {
	readonly personId: number;
	readonly name: string;
	/** "mother of Ana and Rui". */
	readonly part: string;
	readonly language: string;
	/** Why this one is offered first; empty for one that was searched for. */
	readonly why: string;
}

export interface Proof {
	readonly reader: ProofReader;
	readonly email: ProofOf<ProofEmail> | null;
	readonly text: ProofOf<{
		readonly text: string;
		readonly length: TextLength;
		readonly from: string;
	}> | null;
	readonly inbox: ProofOf<
		InboxLetter & {
			readonly about: string;
			readonly note: Note | null;
			/** What its reader is asked there; null where nothing. */
			readonly asks: PageAsks | null;
			readonly files: readonly LetterFile[];
		}
	> | null;
	/** Whether the words are those of the reader's own language. */
	readonly worded: string;
}

/** A copy by one way as its reader would get it; or why there is none. */
export type ProofOf<T> =
	| { readonly ok: true; readonly address: string | null; readonly copy: T }
	| { readonly ok: false; readonly why: string };

export interface ProofEmail extends EmailLetter {
	readonly from: string;
	/** Where answers to the letter go, and what comes back of it, as the letter bears it; each copy has addresses of its own. */
	readonly answers: string;
	readonly returns: string;
	/** The HTML with its pictures at our own address, to be looked at here. */
	readonly page: string;
	/** The plain text with the line breaks it is sent with. */
	readonly lines: string;
	readonly attached: readonly LetterFile[];
}

export type ProofSent =
	/** Where it goes: an address, or for the inbox the link that opens it. */
	| { readonly ok: true; readonly proofId: number; readonly address: string }
	| { readonly ok: false; readonly why: string };

/** One line of a list of names behind a number. */
export interface NamedLine {
	readonly personId: number;
	readonly name: string;
	/** "mother of Ana and Rui". */
	readonly relation: string;
	/** Address, or the reason there is none. */
	readonly note: string;
}

/** The first of a list of names, and how many there are. */
export interface NamedLines {
	readonly total: number;
	readonly lines: readonly NamedLine[];
}

/** When a sheet would leave. */
interface LandingTimes extends TimesTally {
	/** Every moment, past and left-out ones among them. */
	readonly moments: readonly Moment[];
	/** How many of them are still to come. */
	readonly coming: number;
	/** The first of those, or what is past where none is. */
	readonly moment: Moment;
}

export interface Landing {
	readonly tally: Tally;
	readonly times: LandingTimes;
	readonly checks: readonly Check[];
	/** What is to be expected; null where nobody gets a copy. */
	readonly expect: ExpectLine | null;
	/** The boards it will stand on; null of what is no announcement, or is kept off. */
	readonly boards: {
		readonly names: readonly string[];
		readonly notFor: readonly NoBoard[];
	} | null;
	/** In whose calendars its event will stand; null where it puts none there. */
	readonly event: { readonly names: readonly string[] } | null;
	readonly byLine: readonly LineCount[];
	/** Languages that the people want to read, most first. */
	readonly languages: readonly LanguageCount[];
	/** Each line in words. */
	readonly words: readonly string[];
	/** The files that go with it, as far as they are the user's. */
	readonly files: readonly KeptFile[];
	/** Names of the people whom the sheet names one by one, as far as the user may know them. */
	readonly names: Readonly<Record<number, string>>;
}

/** One of the texts that will be sent. */
export interface TextSample {
	/** Name of its recipient. */
	readonly name: string;
	readonly text: string;
	readonly language: string;
	readonly facts: CopyFacts;
	readonly length: TextLength;
}

/** The true lengths of all texts of a sheet, each with its recipient's own values. */
export interface TextLengths {
	/** One line for each language wording that texts are sent in, most texts first. */
	readonly byLanguage: readonly {
		readonly language: string;
		readonly name: string;
		readonly texts: number;
		readonly parts: number;
	}[];
	readonly texts: number;
	readonly parts: number;
	readonly shortest: TextSample;
	readonly typical: TextSample;
	readonly longest: TextSample;
	/** What each of them asks; null where they ask nothing. */
	readonly asks: Asks | null;
}

/** Which list of names is asked for: those who get a copy by a way, those who would get a second one, those left out. */
export const doors = [
	'people',
	'email',
	'text',
	'inbox',
	'merged',
	'byOtherLine',
	'informed',
	'leftOut',
	'leftOutForSome',
	'unreached',
	'alone',
	'out'
] as const;

export type Door = (typeof doors)[number];

/** What the page asks for: a part of the manifest. Its filters all hold at once; an empty text leaves one open. */
export const manifestFilterSchema = z.object({
	search: z.string().max(200).default(''),
	show: z
		.enum(['all', 'copies', 'out', 'not-all-ways', 'several', 'shared', 'later', 'by-hand'])
		.default('all'),
	way: z.enum(['', ...ways]).default(''),
	language: z.string().max(35).default(''),
	reason: z.string().max(200).default(''),
	section: z.string().max(200).default(''),
	page: z.number().int().min(1).default(1)
});

export type ManifestFilter = z.infer<typeof manifestFilterSchema>;
