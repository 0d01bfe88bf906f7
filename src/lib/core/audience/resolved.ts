import type { As } from './people';
import type { Reason } from './reasons';

/** Why one person is in: for which student, what they are to them, by which lines. */
export interface Because {
	/** The student they are written to for; null for someone meant for themselves. */
	readonly studentId: number | null;
	/** As what they are in. */
	readonly as: As;
	/** The roster's word for it: a relation or a role; null where it has none. */
	readonly word: string | null;
	/** Index of the line of the audience that brought them in; null for by hand. */
	readonly line: number | null;
	/** Lines that mean them for the same student too, and add no second copy. */
	readonly also: readonly number[];
}

interface Meant {
	readonly personId: number;
	readonly because: readonly Because[];
}

export interface Excluded {
	readonly personId: number;
	/** Null for someone who was meant for themselves. */
	readonly studentId: number | null;
	readonly reason: Reason;
}

/** What one line does. */
export interface LineCount {
	/** People the line means, or for `but-not` takes out. */
	readonly people: number;
	/** Of them, those whom earlier lines mean for all the same students already. */
	readonly already: number;
}

/** One person meant for one student, taken out again by a line (counted from 0). */
export interface OutByLine {
	readonly personId: number;
	readonly studentId: number;
	readonly line: number;
}

/** A student of the picks who was taken out: by a line (counted from 0), or by hand where all who were left were. */
export interface TakenOut {
	readonly studentId: number;
	readonly by: number | 'hand';
}

/** What an audience comes to before ways and addresses are looked at. */
export interface Resolved {
	/** Every student somebody may be written to for, each once: not those of `takenOut`. */
	readonly students: readonly number[];
	/** Students that were picked and taken out again. Every student of the picks is either here or in `students`. */
	readonly takenOut: readonly TakenOut[];
	/** People a line took out for students who are still in by others. */
	readonly outByLine: readonly OutByLine[];
	/** For each student, the section they are shown under: a picked one, else one they are enrolled in; null for none. */
	readonly sectionOf: ReadonlyMap<number, number | null>;
	readonly meant: readonly Meant[];
	/** People who would be meant and are passed over, with the reason. */
	readonly excluded: readonly Excluded[];
	readonly byLine: readonly LineCount[];
}
