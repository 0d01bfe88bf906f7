import { wordsMark } from '$lib/core/copy/stale';
import type { Draft } from '$lib/server/desk/sheet/types';

/**
 * A short mark of what a draft holds: the same for two that say the same, however they were stored.
 * A hash (FNV-1a, 32 bits, of what it holds, with its length), so that some can be kept.
 */
export function draftMark(draft: Draft): string {
	const { audience, kind, ways, turns, cover, chases, copies, letter, board, timing } = draft;
	const { holdMinutes, wording } = draft;
	const text = JSON.stringify([
		audience,
		kind,
		ways,
		turns,
		cover,
		chases,
		copies,
		letter,
		board,
		timing,
		holdMinutes,
		wording.language,
		wordsMark(wording.words),
		wording.variants.map((v) => [
			v.language,
			v.checked,
			v.off,
			wordsMark(v.words),
			wordsMark(v.basis)
		])
	]);
	let hash = 0x811c9dc5;
	for (let i = 0; i < text.length; i += 1) {
		hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
	}
	return `${text.length}.${(hash >>> 0).toString(16)}`;
}
