import type { DeliveryLine } from '../track/types';
import type { Habit } from '../../../core/track/habit';
import type { ConsentHow } from '../../../core/roster/consent';
import type { WayOut } from '../../../core/roster/way';

/** A person as a search shows them. */
export interface FoundPerson {
	readonly personId: number;
	readonly name: string;
	/** "Grade 7, Brackwater", "mother of Ana", "school office". */
	readonly note: string;
}

/** A place that a search leads to. */
export interface JumpTo {
	readonly key: string;
	readonly kind: 'person' | 'dispatch' | 'section' | 'group' | 'page' | 'deed';
	readonly name: string;
	readonly note: string;
	readonly href: string;
}

/** An address that does not work. */
export interface FailingAddress {
	readonly id: number;
	readonly personId: number;
	readonly person: string;
	readonly way: WayOut;
	readonly value: string;
	/** As people read it. */
	readonly shown: string;
	readonly why: string;
	/** Instant, ms. */
	readonly since: number;
	/** Given names of this person's students, joined. */
	readonly students: string;
	/** Dispatches that this person missed by this way since then, of those the user may see, newest first. */
	readonly missed: readonly { readonly id: number; readonly subject: string }[];
	/** The school offices that look after it, joined; the district's where no school does. */
	readonly lookedAfterBy: string;
}

/** A page of the addresses to mend, and how many there are. */
export interface FailingPage {
	readonly found: number;
	/** 1 is the first. */
	readonly page: number;
	readonly addresses: readonly FailingAddress[];
}

export type Mended =
	{ readonly ok: true; readonly said: string } | { readonly ok: false; readonly why: string };

/** An address of a person and how it stands. */
export interface PersonAddress {
	readonly id: number;
	readonly way: WayOut;
	readonly value: string;
	/** As people read it. */
	readonly shown: string;
	readonly consent: 'in' | 'out' | 'unknown';
	/** Since when consent is so, ms, how it came, and what was said of it; null where that is not on file. */
	readonly consentAt: number | null;
	readonly consentHow: ConsentHow | null;
	readonly consentSaid: string | null;
	readonly failing: string | null;
	readonly since: number | null;
	/** When it was last mended and by whom, and what it was before, as people read it; or null. */
	readonly mended: { readonly at: number; readonly by: string; readonly before: string } | null;
}

/** Somebody this person is tied to. */
export interface Tie {
	readonly personId: number;
	readonly name: string;
	/** "mother", "student". */
	readonly relation: string;
	/** What the tie carries, as phrases: custody, correspondence. */
	readonly notes: string;
	readonly studentId: number;
	readonly adultId: number;
	/** The relation as it stands on file. */
	readonly word: string;
	readonly guardian: boolean;
	/** Null where nobody has said it. */
	readonly custody: boolean | null;
	readonly correspondence: boolean;
	readonly emergency: boolean;
}

/** Something that was changed of a person. */
export interface PersonChange {
	readonly id: number;
	readonly at: number;
	/** Who changed it; the file that did, where nobody by hand. */
	readonly by: string;
	readonly fileId: number | null;
	readonly field: string;
	readonly about: string | null;
	readonly before: string | null;
	readonly after: string | null;
	readonly disputed: boolean;
}

/** One thing that was sent to a person, or for a student, or that left them out. */
export interface LogEntry {
	readonly dispatchId: number;
	readonly subject: string;
	readonly sender: string;
	readonly leavesAt: number;
	/** The copies; none where they were left out. */
	readonly copies: readonly DeliveryLine[];
	/** Why there is no copy, or empty. */
	readonly leftOut: string;
}

/** What a person is called and reads, and where a student is, as it stands on file. */
export interface OwnFields {
	readonly givenName: string;
	readonly familyName: string;
	/** BCP 47. */
	readonly language: string;
	readonly hasInbox: boolean;
	readonly identifier: string;
	readonly schoolId: number | null;
	readonly gradeLevel: string;
}

export interface PersonView {
	readonly id: number;
	readonly kind: 'student' | 'adult';
	readonly name: string;
	readonly language: string;
	readonly hasInbox: boolean;
	/** "Grade 7, Brackwater", or what the person does. */
	readonly note: string;
	readonly sections: readonly string[];
	readonly households: readonly {
		readonly id: number;
		readonly name: string;
		readonly members: readonly { readonly personId: number; readonly name: string }[];
	}[];
	/** Others on file who have turned out to be this person (`kept` 1), or whom this one has turned out to be. */
	readonly same: readonly {
		readonly id: number;
		readonly personId: number;
		readonly name: string;
		/** Instant, ms. */
		readonly at: number;
		readonly by: string;
		readonly kept: 0 | 1;
	}[];
	readonly ties: readonly Tie[];
	readonly addresses: readonly PersonAddress[];
	/** What the person has chosen for themselves, as phrases. */
	readonly chosen: readonly string[];
	readonly habits: readonly Habit[];
	readonly log: readonly LogEntry[];
	readonly found: number;
	/** Whether the log holds what others sent too. */
	readonly seesOthers: boolean;
	readonly mayMend: boolean;
	readonly mayCorrect: boolean;
	/** What can be corrected of the person themselves; null where the user may not. */
	readonly own: OwnFields | null;
	/** What was changed of them, the newest first. */
	readonly changes: readonly PersonChange[];
	/** Since when they are gone, ms; null while they are here. */
	readonly goneAt: number | null;
	/** Whether a link to their inbox may be made for them. */
	readonly mayGiveLink: boolean;
	/** Whether the user may take everything about them out, and erase them. */
	readonly mayTakeOut: boolean;
}

/** Somebody whom the office may give a link to their inbox. */
export interface LinkFor {
	readonly personId: number;
	readonly name: string;
	readonly district: string;
	readonly zone: string;
	readonly now: number;
	/** Whether any other way works for them. */
	readonly hasAddress: boolean;
}
