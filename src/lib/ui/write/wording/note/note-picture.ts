/** A picture that stands for a note in an email. */
export interface NotePicture {
	readonly file: File;
	readonly width: number;
	readonly height: number;
}

const colours = { paper: '#faf7f0', sea: '#0f5c63', water: '#9bbfc0', line: '#bfb49f' } as const;

/** The sign that something can be played (IEC 60417-5107), on a piece of paper. */
function sign(pen: CanvasRenderingContext2D, x: number, y: number, size: number): void {
	pen.fillStyle = colours.paper;
	pen.fillRect(x, y, size, size);
	pen.fillStyle = colours.sea;
	pen.beginPath();
	pen.moveTo(x + size * 0.34, y + size * 0.26);
	pen.lineTo(x + size * 0.72, y + size * 0.5);
	pen.lineTo(x + size * 0.34, y + size * 0.74);
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

/** How loud a voice is over its time, as water that rises and falls beside a tag. */
async function voicePicture(recorded: Blob): Promise<NotePicture | null> {
	const sound = await new OfflineAudioContext(1, 1, 8_000).decodeAudioData(
		await recorded.arrayBuffer()
	);
	const heard = sound.getChannelData(0);
	const { canvas, pen } = canvasOf(440, 88);
	const { width, height } = canvas;
	pen.fillStyle = colours.paper;
	pen.fillRect(0, 0, width, height);
	sign(pen, 0, 0, height);
	const marks = 44;
	const loudness = Array.from({ length: marks + 1 }, (_, i) => {
		const part = heard.subarray(
			Math.floor((i * heard.length) / (marks + 1)),
			Math.floor(((i + 1) * heard.length) / (marks + 1))
		);
		return Math.sqrt(part.reduce((sum, x) => sum + x * x, 0) / Math.max(1, part.length));
	});
	const most = Math.max(0.02, ...loudness);
	const xOf = (i: number) => height + (i * (width - height)) / marks;
	const yOf = (i: number) => height - 14 - (loudness[i]! / most) * (height - 34);
	pen.beginPath();
	pen.moveTo(xOf(0), yOf(0));
	for (let i = 1; i <= marks; i += 1) {
		const middle = (xOf(i - 1) + xOf(i)) / 2;
		pen.bezierCurveTo(middle, yOf(i - 1), middle, yOf(i), xOf(i), yOf(i));
	}
	pen.strokeStyle = colours.sea;
	pen.lineWidth = 2;
	pen.stroke();
	pen.lineTo(width, height);
	pen.lineTo(height, height);
	pen.fillStyle = colours.water;
	pen.fill();
	pen.lineWidth = 1;
	pen.strokeStyle = colours.line;
	pen.strokeRect(0.5, 0.5, width - 1, height - 1);
	pen.setLineDash([4, 3]);
	pen.strokeRect(0.5, 0.5, height, height - 1);
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
		sign(pen, 12, canvas.height - 68, 56);
		return await asFile(canvas);
	} finally {
		URL.revokeObjectURL(address);
	}
}

/** Makes the picture of a note; null where the browser cannot: its link then stands alone. */
export const notePicture = (kind: 'voice' | 'video', recorded: Blob): Promise<NotePicture | null> =>
	(kind === 'voice' ? voicePicture(recorded) : videoPicture(recorded)).catch(() => null);
