/** The full-text indexes there are; each has the ids of its table as row ids. */
type Index = 'person_words' | 'dispatch_words' | 'section_words' | 'answer_words';

/** More words than this narrow nothing down any more. */
const mostWords = 20;

/** The words of a search, without whatever is no letter or digit. */
export const searchWords = (search: string): string[] =>
	[...search.matchAll(/[\p{L}\p{M}\p{N}]+/gu)].map(([word]) => word).slice(0, mostWords);

/** Conditions that a column of ids begins each word of a search with, in one of its indexes, and their binds. */
export interface Found {
	readonly sql: string;
	readonly bind: Readonly<Record<string, string>>;
}

/**
 * Rows in which every word of a search begins a word, whatever the accents and the case: a condition
 * on columns of ids, each with the index that it is found by, and where in it alone. A word may stand
 * in any of them. Null for a search without words.
 */
export function found(
	search: string,
	...among: readonly (readonly [column: string, index: Index, only?: 'subject'])[]
): Found | null {
	const words = searchWords(search);
	if (words.length === 0) return null;
	return {
		sql: words
			.map(
				(_, i) =>
					`(${among
						.map(
							([column, index, only]) =>
								`${column} IN (SELECT rowid FROM ${index} WHERE ${index} MATCH ${only ? `'${only} : ' || ` : ''}$word${i})`
						)
						.join(' OR ')})`
			)
			.join(' AND '),
		// A string of FTS5's own, so that nothing in it is taken for an operator (sqlite.org/fts5.html section 3.2).
		bind: Object.fromEntries(words.map((word, i) => [`word${i}`, `"${word}" *`]))
	};
}
