import type { LostTie } from './not-theirs';
import type { Work } from './work';

/** Who is no longer to be written to by some work: ties that end or lose custody, and people who go. */
export function lostBy(work: Pick<Work, 'contact' | 'person'>): {
	readonly lost: LostTie[];
	readonly gone: number[];
} {
	const lost: LostTie[] = [];
	for (const { before, after } of work.contact.change) {
		const ended = before.gone_at === null && after.gone_at !== null;
		const custody = before.custody === 1 && after.custody !== 1;
		const letters = before.correspondence === 1 && after.correspondence !== 1;
		if (ended || custody || letters)
			lost.push({
				studentId: after.student_id as number,
				personId: after.person_id as number,
				custodyOnly: !ended
			});
	}
	for (const row of work.contact.take)
		lost.push({
			studentId: row.student_id as number,
			personId: row.person_id as number,
			custodyOnly: false
		});
	const gone = work.person.change
		.filter(({ before, after }) => before.gone_at === null && after.gone_at !== null)
		.map(({ after }) => after.id as number);
	return { lost, gone: [...gone, ...work.person.take.map((row) => row.id as number)] };
}
