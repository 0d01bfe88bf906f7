import { count } from '$lib/core/copy/count';
import { slotWords, type ComingHow } from '$lib/core/talk/invitation';
import type { Slot } from '$lib/core/talk/invitation-schema';
import { dayTime } from '../../parts/clock';

/** "Thu Feb 4, 4:15 pm, room 12": one of the times, seen from `now`. */
export const slotSeen = (slot: Slot, zone: string, now: number): string =>
	slotWords(slot, (at) => dayTime(at, zone, now));

export const peopleWords = (n: number): string => `${count(n)} ${n === 1 ? 'person' : 'people'}`;

/** "2 adults and 1 student"; only the number where nobody said who they are. */
export const manyWords = (people: number, students: number | null): string => {
	if (students === null) return peopleWords(people);
	const adults = people - students;
	const parts = [
		...(adults > 0 ? [`${count(adults)} ${adults === 1 ? 'adult' : 'adults'}`] : []),
		...(students > 0 ? [`${count(students)} ${students === 1 ? 'student' : 'students'}`] : [])
	];
	return parts.join(' and ');
};

/** By which way an answer came. */
export const howWords: Readonly<Record<ComingHow, string>> = {
	page: 'on their page',
	text: 'by text',
	open: 'by the link for anybody',
	staff: 'put down'
};
