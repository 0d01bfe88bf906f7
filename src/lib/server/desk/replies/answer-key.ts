import { createHash } from 'node:crypto';

/** A key for an answer that no page made: the same for the same letter, so that it goes out once (RFC 9562 section 5.8, version 8). */
export function keyFrom(letter: string): string {
	const hex = createHash('sha256').update(letter).digest('hex');
	return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-a${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}
