import { mostNoteMs, type Note } from '$lib/core/copy/note';

type Kind = Note['kind'];

/** Forms in the order in which they are wanted: what every phone plays first. */
const forms: Readonly<Record<Kind, readonly string[]>> = {
	voice: ['audio/mp4;codecs=mp4a.40.2', 'audio/webm;codecs=opus', 'audio/webm'],
	video: ['video/mp4;codecs=avc1.42E01E,mp4a.40.2', 'video/webm;codecs=vp8,opus', 'video/webm']
};
/** Enough for a face that speaks; two minutes stay under what mail and phones bear. */
const rates = { audioBitsPerSecond: 48_000, videoBitsPerSecond: 600_000 } as const;

/** Why nothing is recorded, in words: what is so, and what to do. */
function whyNot(error: unknown, kind: Kind): string {
	const device = kind === 'voice' ? 'microphone' : 'camera or microphone';
	switch ((error as { name?: string }).name) {
		case 'NotAllowedError':
			return `The browser does not let this page use the ${device}. Allow it beside the address of the page, then record again.`;
		case 'NotFoundError':
		case 'OverconstrainedError':
			return `There is no ${device} that works. Plug one in, then record again.`;
		case 'NotReadableError':
			return `The ${device} is used by something else. End that, then record again.`;
		default:
			return 'It could not be recorded. Try once more.';
	}
}

/** Records a voice or a face, up to the longest that a note may be. */
export class Recorder {
	state = $state<'idle' | 'asking' | 'recording'>('idle');
	trouble = $state('');
	/** How long it has been recording, ms. */
	elapsed = $state(0);
	/** What the camera sees, to be shown meanwhile. */
	seen = $state.raw<MediaStream | null>(null);
	#media: MediaRecorder | null = null;
	#gone = false;

	/** Records until {@link stop} or the longest there is; resolves to what was recorded, or null where that came to nothing. */
	async record(kind: Kind): Promise<Blob | null> {
		this.trouble = '';
		if (!('mediaDevices' in navigator) || typeof MediaRecorder === 'undefined') {
			this.trouble =
				'Nothing can be recorded here: the browser asks for a secure address (https), or cannot do it at all.';
			return null;
		}
		this.state = 'asking';
		let stream: MediaStream;
		try {
			stream = await navigator.mediaDevices.getUserMedia({
				audio: { echoCancellation: true, noiseSuppression: true },
				video: kind === 'video' ? { width: { ideal: 640 }, height: { ideal: 480 } } : false
			});
		} catch (error) {
			this.trouble = whyNot(error, kind);
			this.state = 'idle';
			return null;
		}
		const end = () => stream.getTracks().forEach((track) => track.stop());
		// The page was left while the browser asked.
		if (this.#gone) return (end(), null);
		try {
			return await this.#take(kind, stream);
		} catch (error) {
			this.trouble = whyNot(error, kind);
			return null;
		} finally {
			end();
			this.seen = null;
			this.state = 'idle';
		}
	}

	async #take(kind: Kind, stream: MediaStream): Promise<Blob | null> {
		const mimeType = forms[kind].find((form) => MediaRecorder.isTypeSupported(form));
		const media = new MediaRecorder(stream, { ...rates, ...(mimeType ? { mimeType } : {}) });
		const parts: Blob[] = [];
		media.ondataavailable = (e) => e.data.size > 0 && parts.push(e.data);
		const stopped = new Promise<void>((done, failed) => {
			media.onstop = () => done();
			media.onerror = () => failed(new Error('the recorder failed'));
		});
		this.#media = media;
		this.elapsed = 0;
		this.seen = kind === 'video' ? stream : null;
		this.state = 'recording';
		media.start(1_000);
		const began = performance.now();
		const clock = setInterval(() => {
			this.elapsed = performance.now() - began;
			if (this.elapsed >= mostNoteMs[kind]) this.stop();
		}, 200);
		await stopped.finally(() => clearInterval(clock));
		this.#media = null;
		return this.#gone || parts.length === 0 ? null : new Blob(parts, { type: media.mimeType });
	}

	stop(): void {
		if (this.#media?.state === 'recording') this.#media.stop();
	}

	/** Its page is left: nothing is recorded any more. */
	leave(): void {
		this.#gone = true;
		this.stop();
	}
}
