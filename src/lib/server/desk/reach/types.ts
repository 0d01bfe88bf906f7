import type { StudentStanding, CoverRule, CoverageUnit } from '../../../core/track/coverage';
import type { Share } from '../../../core/track/share';
import type { Turn } from '../../../core/plan/turns';
import type { KeptForecast } from '../expect/types';
import type { Growth } from '../../../core/track/growth';
import type { DeliveryState } from '../../../core/track/evidence';
import type { DeliveryLine, LeftOutLine, StudentLeftLine } from '../track/types';
import type { StudentLeftKind } from '../../../core/plan/students-left';
import type { Way } from '../../../core/roster/way';

export interface RingStudent {
	readonly studentId: number;
	readonly name: string;
	readonly standing: StudentStanding;
}

/** The students of one section as a line of the roster field. */
export interface RosterFieldLine {
	/** 0 for those in no section. */
	readonly sectionId: number;
	readonly section: string;
	readonly school: string;
	readonly students: number;
	readonly covered: number;
	readonly unreachable: number;
	/** Null where there are too many students to draw at once: the line is opened for them. */
	readonly rings: readonly RingStudent[] | null;
}

/** A part of the students and how many of it are covered. */
export interface ReachShare extends Share {
	readonly name: string;
}

/** A link of the words, and how it was followed. */
export interface LinkLine {
	readonly href: string;
	/** People who followed it, without those of whom only a machine may have. */
	readonly people: number;
	readonly machines: number;
	/** The first of them by name. */
	readonly names: readonly string[];
}

/** A dispatch as its page heads it. */
export interface ReachedDispatch {
	readonly id: number;
	readonly subject: string;
	readonly body: string;
	readonly audience: string;
	readonly sender: string;
	readonly senderId: number;
	readonly state: 'scheduled' | 'sent';
	/** As they were chosen; copies may go by others as well. */
	readonly ways: readonly Way[];
	readonly turns: readonly Turn[];
	readonly scheduledAt: number;
	readonly leavesAt: number;
	readonly sentAt: number | null;
	/** No copy leaves at or after this instant; null where it never goes stale. */
	readonly endsAt: number | null;
	/** Who sent it urgently and when, and how many copies passed over what their readers have declined; null where it is not. */
	readonly urgent: { readonly by: string; readonly at: number; readonly overWish: number } | null;
	/** Why it waits for an answer instead of leaving, or null. */
	readonly waits: string | null;
	readonly roundId: number | null;
	/** The dispatch that this one follows up, and those that follow this one up. */
	readonly chases: { readonly id: number; readonly subject: string } | null;
	readonly chasedBy: readonly { readonly id: number; readonly subject: string }[];
	/** Whether copies are only written down when its time comes near. */
	readonly farAhead: boolean;
}

/** The figures of a coverage, which each piece of evidence may change. */
export interface CoverageFigures {
	readonly sentence: string;
	readonly students: number;
	readonly covered: number;
	readonly waiting: number;
	readonly unreachable: number;
	readonly bySchool: readonly ReachShare[];
	readonly byLanguage: readonly ReachShare[];
	readonly growth: Growth | null;
}

/** How far the students of a dispatch are covered. */
export interface ReachCoverage extends CoverageFigures {
	readonly rule: CoverRule;
	/** What the four numbers count. */
	readonly unit: CoverageUnit;
	/** With all that follows it up; null where nothing does. */
	readonly together: { readonly covered: number; readonly dispatches: number } | null;
	readonly field: readonly RosterFieldLine[];
	/** What was to be expected before it was read; null where nothing was said. */
	readonly forecast: KeptForecast | null;
}

/** Where the copies of a dispatch stand, counted over all of them, whatever the filter. */
export interface CopyFigures {
	readonly all: number;
	/** When the first one left (instant, ms); null while none has. */
	readonly firstLeft: number | null;
	/** Copies that have not left, those of them that were never tried, and when the first and the last do. */
	readonly pending: {
		readonly copies: number;
		readonly untried: number;
		readonly firstAt: number | null;
		readonly lastAt: number | null;
	};
	readonly byWay: readonly {
		way: Way;
		states: Readonly<Partial<Record<DeliveryState, number>>>;
		copies: number;
	}[];
	/** Of the copies that have left by each way, those that were read. */
	readonly byWayRead: readonly ReachShare[];
	/** Copies that only a machine may have opened. */
	readonly weak: number;
	/** Copies that may have arrived, handed over more than once without an answer. */
	readonly unsure: number;
	readonly links: readonly LinkLine[];
}

/** {@link CopyFigures}, and the page of them that fits a filter. */
export interface ReachCopies extends CopyFigures {
	/** Deliveries that fit the filter, and the page of them. */
	readonly found: number;
	readonly deliveries: readonly DeliveryLine[];
	/** How the people of this page read, by person, in a few words. */
	readonly habits: Readonly<Record<number, string>>;
}

/** Who was left out of a dispatch, and the students of whom no copy speaks. */
interface ReachLeft {
	/** People without any copy, and rows of the list of all left out. */
	readonly people: number;
	readonly rows: number;
	readonly first: readonly LeftOutLine[];
	/** By how that came about, and the first of them. */
	readonly students: Readonly<Record<StudentLeftKind, number>>;
	readonly studentsFirst: readonly StudentLeftLine[];
}

/** As of when a dispatch is looked at: its plan, and the number of the newest event that is counted. */
interface ReachAsOf {
	readonly plan: string;
	readonly event: number;
}

/** What has changed of a dispatch for whoever looks at it: the figures as they are now, and what events were about that came after `since`. */
export interface ReachChange {
	readonly asOf: ReachAsOf;
	readonly since: number;
	readonly state: ReachedDispatch['state'];
	/** Whether somebody answered in words: what else says so is to be asked for again. */
	readonly answered: boolean;
	readonly coverage: CoverageFigures;
	/** Sections with a student of whom a touched copy speaks; of the students only these, where each has a ring. */
	readonly sections: readonly (Pick<RosterFieldLine, 'sectionId' | 'covered' | 'unreachable'> & {
		readonly rings: readonly Pick<RingStudent, 'studentId' | 'standing'>[];
	})[];
	readonly copies: CopyFigures;
	/** The copies that events were about; where they are few, their lines as well. */
	readonly touched: readonly number[];
	readonly lines: readonly DeliveryLine[];
}

/** What there is to tell of a dispatch since an event: nothing, what changed, or that the page is to be asked for anew; and up to which event that is. */
export type ReachNews =
	| { readonly is: 'nothing' }
	| { readonly is: 'change'; readonly event: number; readonly change: ReachChange }
	| { readonly is: 'anew'; readonly event: number };

/** All that the page of one dispatch in Reach says. */
export interface DispatchReach {
	readonly asOf: ReachAsOf;
	readonly dispatch: ReachedDispatch;
	readonly coverage: ReachCoverage;
	readonly copies: ReachCopies;
	readonly left: ReachLeft;
}

/** A page of everyone left out of a dispatch, and the students of whom no copy speaks. */
export interface LeftOutPage {
	readonly subject: string;
	readonly all: { readonly people: number; readonly rows: number };
	readonly page: number;
	readonly perPage: number;
	readonly lines: readonly LeftOutLine[];
	readonly studentCounts: Readonly<Record<StudentLeftKind, number>>;
	readonly students: readonly StudentLeftLine[];
}

/** A student whom a dispatch is about, as the roster field places them. */
export interface FieldStudent {
	readonly studentId: number;
	readonly name: string;
	readonly sectionId: number;
	readonly section: string;
	readonly school: string;
	/** BCP 47 tag of the student's own language. */
	readonly language: string;
}
