import type { ClockStyle } from '../../../core/copy/clock-style';
/** Where a name or an address still stands after somebody was erased. */
export interface StillNamed {
	readonly table: string;
	/** What the table is for. */
	readonly about: string;
	readonly rows: number;
}

/** What came of erasing somebody. */
export interface Erased {
	readonly left: readonly StillNamed[];
}

/** A part of somebody's file, a line for each thing. */
export interface FilePart {
	readonly name: string;
	readonly about: string;
	readonly lines: readonly Readonly<Record<string, unknown>>[];
}

/** Everything that is known of one person, to be taken along: as JSON, and read as pages. */
export interface WholeFile {
	readonly district: string;
	readonly zone: string;
	/** How a time of day is written. */
	readonly clock: ClockStyle;
	readonly person: string;
	/** When it was made, ISO 8601. */
	readonly at: string;
	readonly parts: readonly FilePart[];
}
