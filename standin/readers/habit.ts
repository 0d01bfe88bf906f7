/**
 * How made-up people read. Everything is drawn from a hash of seed, address and copy, so that the
 * same seed gives the same readers whatever order the letters come in.
 */

/** FNV-1a, 32 bits, with a final mix: small and even enough for made-up people. */
function hash(text: string): number {
	let h = 0x811c9dc5;
	for (let i = 0; i < text.length; i += 1) {
		h ^= text.charCodeAt(i);
		h = Math.imul(h, 0x01000193);
	}
	h ^= h >>> 16;
	h = Math.imul(h, 0x85ebca6b);
	h ^= h >>> 13;
	h = Math.imul(h, 0xc2b2ae35);
	return (h ^ (h >>> 16)) >>> 0;
}

/** An even draw from 0 (in) to 1 (out). */
export const draw = (...parts: readonly string[]): number => hash(parts.join('\n')) / 2 ** 32;

export type Channel = 'email' | 'text' | 'inbox';

export interface Reading {
	/** Whether this person opens this copy at all. */
	readonly opens: boolean;
	/** How long after it arrived, minutes. */
	readonly afterMinutes: number;
	/** Whether they tap "I have seen this". */
	readonly taps: boolean;
}

/** What share of copies people open by each channel, for a middling reader. Made up. */
const opening: Readonly<Record<Channel, number>> = { email: 0.5, text: 0.72, inbox: 0.42 };
const medianMinutes: Readonly<Record<Channel, number>> = { email: 95, text: 12, inbox: 240 };

/** What one person does with one copy. `person` is their address or, for the inbox, their own key. */
export function readingOf(seed: string, person: string, copy: string, channel: Channel): Reading {
	// Some read everything, some hardly anything: a person's own tilt, the same for every copy.
	const tilt = draw(seed, 'tilt', person);
	const keen = tilt < 0.18 ? 0.15 : tilt > 0.72 ? 1.5 : 1;
	const opens = draw(seed, 'opens', person, copy) < Math.min(0.97, opening[channel] * keen);
	// Exponential waits around the person's own pace.
	const pace = 0.4 + 1.8 * draw(seed, 'pace', person);
	const wait = -Math.log(1 - draw(seed, 'wait', person, copy)) / Math.LN2;
	return {
		opens,
		afterMinutes: Math.min(3 * 24 * 60, 1 + wait * medianMinutes[channel] * pace),
		taps: draw(seed, 'taps', person, copy) < 0.25 + 0.5 * draw(seed, 'tapper', person)
	};
}

/** What a mail system does by itself with a letter as it comes in. */
export interface Arrival {
	/** Loads the pictures of every letter, so that senders do not learn when they are looked at. */
	readonly loadsPictures: boolean;
	/** Follows the links of every letter, to see whether they are safe. */
	readonly followsLinks: boolean;
}

/** Made up, by the domain of a mailbox. */
export function arrivalAt(address: string): Arrival {
	const domain = address.slice(address.lastIndexOf('@') + 1);
	return {
		loadsPictures: domain === 'harbormail.example',
		followsLinks: domain === 'tidebox.example'
	};
}
