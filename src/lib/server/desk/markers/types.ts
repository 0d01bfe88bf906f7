import type { MarkHow } from '../../db/models/roster';
import type { MarkerKind } from '../../../core/roster/marker';
import type { ListedStudent } from '../roster/student-table';

/** A marker in a list. */
export interface MarkerLine {
	readonly id: number;
	readonly name: string;
	readonly kind: MarkerKind;
	/** Short name of the school it is of; null for the whole district. */
	readonly school: string | null;
	/** The term it ends with; null where it stays. */
	readonly term: string | null;
	/** Of the user's own students: how many have it, and how many could. */
	readonly have: number;
	readonly of: number;
}

/** A place in which students have a marker or lack it. */
export interface MarkerPlace {
	/** "school-1", "section-100": whom a sheet to those who lack it would be about. */
	readonly key: string;
	readonly name: string;
	/** Set for sections, whose list can be marked. */
	readonly sectionId: number | null;
	readonly have: number;
	readonly of: number;
}

/** What a marker says of one student, as a form shows it. */
export interface MarkedStudent {
	readonly studentId: number;
	readonly name: string;
	/** "yes", an ISO date or words; null where they lack it. */
	readonly value: string | null;
	/** Who set it and when (instant, ms); null where nobody has. */
	readonly by: string | null;
	readonly since: number | null;
	readonly byHand: boolean;
	/** What a list says, where a hand has set something else. */
	readonly listSays: string | null;
	readonly differs: boolean;
}

export interface MarkerView extends MarkerLine {
	readonly madeBy: string;
	/** Instants, ms. */
	readonly madeAt: number;
	/** Why it is asked about no more, in words; null while it stands. */
	readonly ended: string | null;
	readonly places: readonly MarkerPlace[];
	/** Sections that a search has found, or in which most students have it; a teacher's own are places. */
	readonly sections: readonly MarkerPlace[];
	/** One section's list, where it is asked for. */
	readonly section: {
		readonly id: number;
		readonly name: string;
		readonly students: readonly MarkedStudent[];
	} | null;
	readonly mayGiveUp: boolean;
}

/** What a list says of one student, beside what is here. */
export interface ListedMark extends ListedStudent {
	readonly before: string | null;
	readonly value: string | null;
}

/** What a list would do to a marker: seen before anything is done. */
export interface SeenMarks {
	/** The heading of the column that is read; null where whoever stands on the list has it. */
	readonly column: string | null;
	readonly set: readonly ListedMark[];
	readonly same: number;
	/** A hand has set something else since; stays. */
	readonly stays: readonly ListedMark[];
	/** Students who are not on it and whom a list gave the marker before: they lose it where the list is complete. */
	readonly absent: readonly ListedMark[];
	readonly wrong: readonly { readonly line: number; readonly text: string }[];
	/** All that it says, to be sent back as it was seen: student and value. */
	readonly said: readonly (readonly [studentId: number, value: string | null])[];
}

/** What became of a form or a list. */
export interface MarksPut {
	readonly put: number;
	/** Set to something else by somebody else while it was open: left as they have it. */
	readonly meanwhile: readonly string[];
}

/** What the form of a new marker offers: schools it can be of, terms it can end with. */
export interface MarkerForm {
	readonly schools: readonly { readonly id: number; readonly name: string }[];
	readonly wholeDistrict: boolean;
	readonly terms: readonly { readonly id: number; readonly name: string }[];
}

/** A marker that a student has. */
export interface StudentMark {
	readonly id: number;
	readonly name: string;
	readonly value: string;
	readonly how: MarkHow;
	readonly by: string;
	/** Instant, ms. */
	readonly since: number;
}
