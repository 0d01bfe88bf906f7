import { fold } from '../../../core/format/fold';
import type { Letter } from './types';

/** Letters that hold every word of a search, whatever the accents and the case, and are about one student where one is named. */
export function lettersFound(
	letters: readonly Letter[],
	{ q, child }: { readonly q: string; readonly child: number | null }
): readonly Letter[] {
	const words = fold(q).split(/\s+/).filter(Boolean);
	return letters.filter((l) => {
		if (child !== null && !l.studentIds.includes(child)) return false;
		if (words.length === 0) return true;
		const text = fold(`${l.subject} ${l.sender} ${l.html.replace(/<[^>]*>/g, ' ')}`);
		return words.every((word) => text.includes(word));
	});
}
