/** A picture that stands for a note in an email. */
export interface NotePicture {
	readonly file: File;
	readonly width: number;
	readonly height: number;
}

const colours = { paper: '#faf7f0', sea: '#0f5c63', line: '#ddd5c6' } as const;

/** A round sign with a point to the right: there is something to be played. */
function sign(pen: CanvasRenderingContext2D, x: number, y: number, r: number): void {
	pen.fillStyle = colours.sea;
	pen.beginPath();
	pen.arc(x, y, r, 0, 2 * Math.PI);
	pen.fill();
	pen.fillStyle = colours.paper;
	pen.beginPath();
	pen.moveTo(x - r * 0.3, y - r * 0.45);
	pen.lineTo(x + r * 0.5, y);
	pen.lineTo(x - r * 0.3, y + r * 0.45);
	pen.fill();
}

function canvasOf(width: number, height: number) {
	const canvas = Object.assign(document.createElement('canvas'), { width, height });
	return { canvas, pen: canvas.getContext('2d')! };
}

const asFile = (canvas: HTMLCanvasElement): Promise<NotePicture | null> =>
	new Promise((done) =>
		canvas.toBlob(
			(png) =>
				done(
					png && {
						file: new File([png], 'note.png', { type: 'image/png' }),
						...{ width: canvas.width, height: canvas.height }
					}
				),
			'image/png'
		)
	);

/** How loud a voice is over its time, as bars. */
async function voicePicture(recorded: Blob): Promise<NotePicture | null> {
	const sound = await new OfflineAudioContext(1, 1, 8_000).decodeAudioData(
		await recorded.arrayBuffer()
	);
	const heard = sound.getChannelData(0);
	const { canvas, pen } = canvasOf(440, 88);
	pen.fillStyle = colours.paper;
	pen.fillRect(0, 0, canvas.width, canvas.height);
	pen.strokeStyle = colours.line;
	pen.strokeRect(0.5, 0.5, canvas.width - 1, canvas.height - 1);
	sign(pen, 48, 44, 28);
	pen.fillStyle = colours.sea;
	const bars = 56;
	for (let i = 0; i < bars; i += 1) {
		const part = heard.subarray(
			Math.floor((i * heard.length) / bars),
			Math.floor(((i + 1) * heard.length) / bars)
		);
		const loud = Math.sqrt(part.reduce((sum, x) => sum + x * x, 0) / Math.max(1, part.length));
		const height = Math.max(3, Math.min(64, loud * 260));
		pen.fillRect(96 + i * 6, 44 - height / 2, 3, height);
	}
	return asFile(canvas);
}

/** Waits until something has happened to an element; rejects where it fails. */
const happened = (element: HTMLElement, name: string): Promise<void> =>
	new Promise((done, failed) => {
		element.addEventListener(name, () => done(), { once: true });
		element.addEventListener('error', () => failed(new Error('It cannot be shown.')), {
			once: true
		});
	});

/** What is seen at the beginning of a film. */
async function videoPicture(recorded: Blob): Promise<NotePicture | null> {
	const film = Object.assign(document.createElement('video'), { muted: true, preload: 'auto' });
	const address = URL.createObjectURL(recorded);
	try {
		const loaded = happened(film, 'loadeddata');
		film.src = address;
		await loaded;
		const moved = happened(film, 'seeked');
		film.currentTime = Math.min(0.5, film.duration / 2 || 0);
		await moved;
		const width = Math.min(440, film.videoWidth);
		const { canvas, pen } = canvasOf(
			width,
			Math.round((width * film.videoHeight) / Math.max(1, film.videoWidth))
		);
		pen.drawImage(film, 0, 0, canvas.width, canvas.height);
		sign(pen, canvas.width / 2, canvas.height / 2, 36);
		return await asFile(canvas);
	} finally {
		URL.revokeObjectURL(address);
	}
}

/** Makes the picture of a note; null where the browser cannot: its link then stands alone. */
export const notePicture = (kind: 'voice' | 'video', recorded: Blob): Promise<NotePicture | null> =>
	(kind === 'voice' ? voicePicture(recorded) : videoPicture(recorded)).catch(() => null);
