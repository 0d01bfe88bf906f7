/** What has a board. */
export type BoardKind = 'district' | 'school' | 'section' | 'group';

/** One place that has a board; the district's has the id 0. */
export interface BoardPlace {
	readonly kind: BoardKind;
	readonly id: number;
}

/** Names a place in an address: "district", "section-100". */
export const boardKey = ({ kind, id }: BoardPlace): string =>
	kind === 'district' ? kind : `${kind}-${id}`;

/** The place that a key of {@link boardKey} names, or null. */
export function placeOfKey(key: string): BoardPlace | null {
	if (key === 'district') return { kind: 'district', id: 0 };
	const match = /^(school|section|group)-([1-9]\d{0,14})$/.exec(key);
	return match ? { kind: match[1] as BoardKind, id: Number(match[2]) } : null;
}
