/** "01:02.345" of WebVTT (w3.org/TR/webvtt1, section 3.3). */
const stamp = (ms: number): string =>
	`${String(Math.floor(ms / 60_000)).padStart(2, '0')}:${((ms % 60_000) / 1000).toFixed(3).padStart(6, '0')}`;

/** What one cue shows, so that it can be read. */
const mostInCue = 90;

/**
 * What is said in a film as captions (WebVTT): its words in the order in which they are said, parted evenly over its
 * length (ms), since nobody has written down when each is.
 */
export function captionsOf(words: string, ms: number): string {
	const parts: string[] = [];
	for (const word of words.trim().split(/\s+/).filter(Boolean)) {
		const last = parts.at(-1);
		if (last !== undefined && last.length + word.length < mostInCue)
			parts[parts.length - 1] = `${last} ${word}`;
		else parts.push(word);
	}
	const letters = parts.reduce((sum, p) => sum + p.length, 0);
	let at = 0;
	const cues = parts.map((part) => {
		const from = at;
		at += (part.length / letters) * ms;
		// A sign of tags and arrows in the words is none of ours.
		const said = part.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');
		return `${stamp(from)} --> ${stamp(at)}\n${said}`;
	});
	return ['WEBVTT', ...cues].join('\n\n').concat('\n');
}
