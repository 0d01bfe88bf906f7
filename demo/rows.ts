import type { WayOut } from '../src/lib/core/roster/way';
import type { SchoolPlan } from './sizes';

/** Rows of the made-up district, table by table, ready to be put in. Column order is that of `columns` in put-rows.ts. */
export interface DistrictRows {
	readonly school: [number, string, string][];
	readonly term: [number, string, string, string][];
	readonly course: [number, number, string, string][];
	readonly section: [number, number, number, string, string][];
	readonly person: [
		number,
		'student' | 'adult',
		string,
		string,
		string,
		number | null,
		string | null,
		0 | 1
	][];
	readonly household: [number, string][];
	readonly household_member: [number, number][];
	readonly contact: [number, number, string, 0 | 1, 0 | 1, 0 | 1, 0 | 1][];
	readonly address: [number, number, WayOut, string, 'in' | 'out' | 'unknown'][];
	readonly enrolment: [number, number][];
	readonly staff: [number, number | null, string][];
	readonly section_staff: [number, number][];
	readonly school_group: [number, string, string, number | null][];
	readonly group_member: [number, number][];
	readonly declined: [number, 'announcement' | 'message', 'email' | 'inbox'][];
}

/** Students by {@link placeKey}. */
export type StudentsAt = Map<string, number[]>;

export const placeKey = (school: SchoolPlan, grade: string): string => `${school.id} ${grade}`;
