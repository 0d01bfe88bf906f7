/** What was recorded, as a file with a beginning, an end and a length. */
export interface CutNote {
	readonly file: File;
	/** Its length, ms. */
	readonly ms: number;
}

/**
 * Cuts what was recorded at both ends, in seconds; what is cut off is in the file no more. Also what is not cut goes
 * this way: a recorder writes no length, and without one nobody can move about in it. Rejects where the browser
 * cannot do it.
 */
export async function cutNote(recorded: Blob, from: number, to: number | null): Promise<CutNote> {
	const m = await import('mediabunny');
	const isMp4 = recorded.type.includes('mp4');
	const input = new m.Input({ source: new m.BlobSource(recorded), formats: [m.MP4, m.WEBM] });
	const target = new m.BufferTarget();
	const output = new m.Output({
		format: isMp4 ? new m.Mp4OutputFormat() : new m.WebMOutputFormat(),
		target
	});
	const conversion = await m.Conversion.init({
		...{ input, output },
		trim: { start: from, ...(to === null ? {} : { end: to }) }
	});
	if (!conversion.isValid || conversion.discardedTracks.length > 0)
		throw new Error('This browser cannot cut what it has recorded.');
	await conversion.execute();
	const made = new Blob([target.buffer!], { type: recorded.type.split(';')[0]! });
	const length = new m.Input({ source: new m.BlobSource(made), formats: [m.MP4, m.WEBM] });
	return {
		file: new File([made], isMp4 ? 'note.mp4' : 'note.webm', { type: made.type }),
		ms: Math.max(1, Math.round((await length.computeDuration()) * 1000))
	};
}
