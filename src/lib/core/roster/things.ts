/**
 * A roster as a source gives it: things of several kinds, each under a key of the source's own, with
 * plain fields. A field that is not there is one that the source does not speak of.
 */

/** Kinds in the order in which they name each other. */
export const thingKinds = [
	'school',
	'term',
	'course',
	'section',
	'person',
	'household',
	'staffRole',
	'contact',
	'householdMember',
	'enrolment',
	'sectionStaff'
] as const;
export type ThingKind = (typeof thingKinds)[number];

/** Cells of a line in which an address of a person stands, the ones first that are used first. */
export const slots = ['email', 'sms', 'phone'] as const;
export type Slot = (typeof slots)[number];

export type FieldValue = string | boolean | null;

interface Fields {
	readonly school: { readonly name: string };
	/** ISO dates of the first day and of the day after the last. */
	readonly term: { readonly name: string; readonly startsOn: string; readonly endsOn: string };
	readonly course: { readonly school: string; readonly code: string; readonly title: string };
	readonly section: {
		readonly course: string;
		readonly term: string;
		readonly name: string;
		readonly period: string;
	};
	readonly person: {
		readonly kind: 'student' | 'adult';
		readonly givenName: string;
		readonly familyName: string;
		/** The three that follow are not there where a source does not speak of them: a contact list. */
		readonly identifier?: string | null;
		/** Of a student; where somebody works is said by their posts. */
		readonly school?: string | null;
		readonly gradeLevel?: string | null;
		readonly hasInbox?: boolean;
		/** BCP 47. */
		readonly language?: string;
		/** Addresses are not there where what the line has is none: what is known stays. */
		readonly email?: string | null;
		/** In E.164. */
		readonly sms?: string | null;
		readonly phone?: string | null;
		/** Whether the number may be sent texts, and since which day (ISO date). */
		readonly texts?: 'in' | 'out';
		readonly textsSince?: string;
	};
	/** A household. */
	readonly household: { readonly name: string };
	/** What somebody does for a school, or (null) for the district. */
	readonly staffRole: {
		readonly person: string;
		readonly school: string | null;
		readonly role: string;
	};
	readonly contact: {
		readonly student: string;
		readonly person: string;
		readonly relation: string;
		/** Not there where a source does not speak of them. */
		readonly guardian?: boolean;
		readonly custody?: boolean;
		readonly correspondence?: boolean;
		readonly emergency?: boolean;
	};
	readonly householdMember: { readonly household: string; readonly person: string };
	readonly enrolment: { readonly section: string; readonly student: string };
	readonly sectionStaff: { readonly section: string; readonly person: string };
}
export type Thing<K extends ThingKind = ThingKind> = Fields[K];
/** A thing of any kind, by the names of its fields. */
export type AnyThing = Readonly<Record<string, FieldValue>>;

/** All things of a roster, by kind and key. */
export type Things = { readonly [K in ThingKind]: ReadonlyMap<string, Thing<K>> };

/** Things of nothing yet, to be filled. */
export const noThings = (): { [K in ThingKind]: Map<string, Thing<K>> } => ({
	school: new Map(),
	term: new Map(),
	course: new Map(),
	section: new Map(),
	person: new Map(),
	household: new Map(),
	staffRole: new Map(),
	contact: new Map(),
	householdMember: new Map(),
	enrolment: new Map(),
	sectionStaff: new Map()
});

/** A key of two things together. Neither may hold the sign between them: sourcedIds are no longer than a line. */
export const keyOf = (...parts: readonly (string | null)[]): string =>
	parts.map((part) => part ?? '').join('\n');
