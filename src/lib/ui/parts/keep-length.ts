import type { LocalTime } from '$lib/core/time/local';

/** The end of an event whose start is moved: it keeps its length. */
export const endKept = (next: LocalTime, starts: LocalTime, ends: LocalTime): LocalTime => {
	const length = Date.parse(`${ends}Z`) - Date.parse(`${starts}Z`);
	return new Date(Date.parse(`${next}Z`) + Math.max(0, length)).toISOString().slice(0, 16);
};
