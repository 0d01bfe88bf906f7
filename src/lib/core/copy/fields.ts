/** Merge fields: what a copy can say of its own recipient. */
export interface Field {
	readonly name: string;
	/** On the screens. */
	readonly label: string;
	/** Whether a recipient can be without it; one that cannot needs no fallback. */
	readonly mayBeEmpty: boolean;
}

export const fields: readonly Field[] = [
	{ name: 'recipient', label: 'recipient’s name', mayBeEmpty: false },
	{ name: 'first_name', label: 'recipient’s first name', mayBeEmpty: false },
	{ name: 'student', label: 'student’s first name, or names', mayBeEmpty: true },
	{ name: 'student_full', label: 'student’s whole name, or names', mayBeEmpty: true },
	{ name: 'section', label: 'section', mayBeEmpty: true },
	{ name: 'period', label: 'period of the section', mayBeEmpty: true },
	{ name: 'teacher', label: 'teacher of the section', mayBeEmpty: true },
	{ name: 'school', label: 'school', mayBeEmpty: true },
	{ name: 'grade', label: 'grade level', mayBeEmpty: true },
	{ name: 'sender', label: 'your name', mayBeEmpty: false },
	{ name: 'today', label: 'day on which it leaves', mayBeEmpty: false }
];

/** What a wording takes of an entry of a feed: filled in for everybody alike, before any copy is made (`fill-feed`). */
export const feedFields: readonly Field[] = [
	{ name: 'feed_title', label: 'title from the feed', mayBeEmpty: false },
	{ name: 'feed_words', label: 'words from the feed', mayBeEmpty: false },
	{ name: 'feed_link', label: 'link from the feed', mayBeEmpty: false },
	{ name: 'feed_picture', label: 'picture from the feed', mayBeEmpty: false },
	{ name: 'feed_time', label: 'time from the feed', mayBeEmpty: false }
];
const known = new Map([...fields, ...feedFields].map((f) => [f.name, f]));

/** Whether a field is one that a feed fills. */
export const isFeedField = (name: string): boolean => feedFields.some((f) => f.name === name);

/** A date in the wording, shown in the reader's language: "date:2027-03-12", or with a time of the district's zone "date:2027-03-12T14:15". */
const datePattern = /^date:(\d{4})-(\d{2})-(\d{2})(?:T(\d{2}):(\d{2}))?$/;

/** Day and time of a date field, or null where it is none or there is no such day. */
export function dateOfField(
	name: string
): { readonly day: string; readonly time: string | null } | null {
	const parts = datePattern.exec(name);
	if (!parts) return null;
	const [, year, month, day, hour, minute] = parts;
	const date = new Date(Date.UTC(Number(year), Number(month) - 1, Number(day)));
	const real = date.getUTCMonth() === Number(month) - 1 && date.getUTCDate() === Number(day);
	if (!real || Number(hour ?? 0) > 23 || Number(minute ?? 0) > 59) return null;
	return { day: `${year}-${month}-${day}`, time: hour ? `${hour}:${minute}` : null };
}

/** What a marker says of the student: its number, then its name for whoever reads the wording, "marker:12 museum slip". */
const markerPattern = /^marker:(\d{1,15}) ([^{}.#^&!>=/<"'`]{1,80})$/;

/** The field of a marker; signs that fields are built with are left out of its name. */
export const markerField = (id: number, name: string): string =>
	`marker:${id} ${
		name
			.replace(/[{}.#^&!>=/<"'`]+/g, ' ')
			.replace(/\s+/g, ' ')
			.trim()
			.slice(0, 80) || 'marker'
	}`;

/** The marker that a field names; null where it names none. */
export function markerOfField(name: string): { readonly id: number; readonly name: string } | null {
	const parts = markerPattern.exec(name);
	return parts ? { id: Number(parts[1]), name: parts[2]! } : null;
}

/** The markers that a wording speaks of, each once; `text` is all of it as JSON, or a template. */
export const markersNamed = (text: string): number[] => [
	...new Set([...text.matchAll(/marker:(\d{1,15}) /g)].map((m) => Number(m[1])))
];

/** Whether a recipient can be without what a field says. */
export const mayBeEmpty = (name: string): boolean =>
	known.get(name)?.mayBeEmpty ?? markerOfField(name) !== null;

/** Whether a name can stand in a wording. */
export const isField = (name: string): boolean =>
	known.has(name) || dateOfField(name) !== null || markerOfField(name) !== null;

/** What a field is called on the screens. */
export function fieldLabel(name: string): string {
	const date = dateOfField(name);
	if (date) return date.time ? `${date.day}, ${date.time}` : date.day;
	return known.get(name)?.label ?? markerOfField(name)?.name ?? name;
}
