import type { Covered, ReportWeek } from '../../../core/track/report-sums';
import type { SilentCounts } from '../silent/types';

/** What came of a term until now, for the students of a school or of the district. */
export interface TermReport {
	readonly term: {
		readonly id: number;
		readonly name: string;
		readonly startsOn: string;
		readonly endsOn: string;
	};
	/** Every term there is something to tell of. */
	readonly terms: readonly { readonly id: number; readonly name: string }[];
	readonly school: string;
	/** The schools that may be asked for, by id; 0 is all of them. */
	readonly schools: readonly { readonly id: number; readonly name: string }[];
	readonly schoolId: number;
	/** Instant, ms: it is as of then. */
	readonly at: number;
	readonly zone: string;
	readonly students: number;
	/** So many days after it leaves a dispatch has to have been read. */
	readonly days: number;
	readonly weeks: readonly ReportWeek[];
	/** By language of the family, tags with a comma between, the most first. */
	readonly languages: readonly (Covered & { readonly tags: string })[];
	readonly partCents: number;
	/** Families that nothing reached, in the first thirty days of the term and in the last. */
	readonly silent: { readonly then: SilentCounts; readonly now: SilentCounts } | null;
}
