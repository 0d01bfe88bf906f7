import type { MarkerKind } from '../../../core/roster/marker';
import type { Audience } from '../../../core/audience/audience';
import type { Offset } from '../../../core/time/offset';
import { z } from 'zod';

/** Something that can be picked: a section, course, group, grade, school or term. */
export interface Choice {
	readonly id: number;
	readonly name: string;
	/** What tells it from others of its name. */
	readonly note: string;
	readonly students: number;
}

/** A section, with what it can be filtered by. */
export interface SectionChoice extends Choice {
	readonly schoolId: number;
	readonly courseId: number;
	readonly teachers: string;
}

export interface TermChoice {
	readonly id: number;
	readonly name: string;
	/** Whether it runs today; between terms, whether it comes next. */
	readonly current: boolean;
}

/** A value that is a word, and how many have it. */
export interface WordChoice {
	readonly value: string;
	readonly word: string;
	readonly people: number;
}

/** An earlier dispatch that an audience can ask about. */
export interface DispatchChoice {
	readonly id: number;
	readonly subject: string;
	/** Instant, ms. */
	readonly leftAt: number;
	/** Whether it asks who comes. */
	readonly asks: boolean;
}

/** All that a user may pick from. */
export interface Choices extends RosterChoices {
	readonly terms: readonly TermChoice[];
	readonly dispatches: readonly DispatchChoice[];
	readonly kept: readonly KeptName[];
	/** Open groups; `students` counts those who joined. */
	readonly openGroups: readonly Choice[];
	/** Markers that can be asked about, and spoken of. */
	readonly markers: readonly {
		readonly id: number;
		readonly name: string;
		readonly kind: MarkerKind;
	}[];
	/** Whether the user may look for anyone by name, and put people in by hand. */
	readonly anyone: boolean;
}

/** A kept audience as lists show it. */
export interface KeptLine {
	readonly id: number;
	readonly name: string;
	readonly form: KeptForm;
	/** The rule in words; of a list, where its people came from. */
	readonly words: string;
	readonly madeBy: string;
	/** Instants, ms. */
	readonly madeAt: number;
	readonly usedAt: number;
	/** What it comes to today, before ways and addresses are looked at. */
	readonly people: number;
	readonly students: number;
	/** Of a rule: people who have come in or dropped out since it was last used; of a list: who is on it and would not be written to now. */
	readonly cameIn: number;
	readonly droppedOut: number;
	/** What it names that is no longer there. */
	readonly missing: number;
}

/** Who has come in, and who has dropped out. */
export interface KeptChange {
	readonly cameIn: readonly string[];
	readonly droppedOut: readonly string[];
}

/** An audience as a sentence, or what is wrong with a sentence: where (UTF-16 units from its start), and why. */
export type SentenceRead =
	| { readonly ok: true; readonly audience: Audience }
	| { readonly ok: false; readonly at: number; readonly why: string };

export interface RosterChoices {
	/** Sections by the id of their term; courses by the term in which they have sections. */
	readonly sections: Readonly<Record<number, readonly SectionChoice[]>>;
	readonly courses: Readonly<Record<number, readonly Choice[]>>;
	readonly wholeTerms: readonly Choice[];
	readonly groups: readonly Choice[];
	/** Grades have their level as name; their id is a place in the list. */
	readonly grades: readonly Choice[];
	readonly schools: readonly Choice[];
	/** What staff do, of those the user may write to; empty where that is nobody. */
	readonly roles: readonly WordChoice[];
	readonly staffSchools: readonly { readonly id: number; readonly name: string }[];
	readonly relations: readonly WordChoice[];
	readonly languages: readonly WordChoice[];
}

export const keptFormSchema = z.enum(['rule', 'list']);

export type KeptForm = z.infer<typeof keptFormSchema>;

export interface KeptName {
	readonly id: number;
	readonly name: string;
	readonly form: KeptForm;
}

/** What an event proposes to whoever writes about it. */
export interface EventProposal {
	readonly eventId: number;
	/** The guardians of those it concerns; what of it a user may see is weighed where it is worked out. */
	readonly audience: Audience;
	/** When reminders leave: those of the usual ones that are still to come. */
	readonly offsets: readonly Offset[];
}
