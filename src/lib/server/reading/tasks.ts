import { randomBytes, scryptSync, timingSafeEqual } from 'node:crypto';
import { fileTypeFromBuffer } from 'file-type';
import { imageSize } from 'image-size';
import { readCalendarFile } from '../../core/format/icalendar';
import { readFeed } from '../../core/format/read-feed';
import { readReturned } from '../gateway/return-mail';
import { isWholePicture } from './whole-picture';

/** What a file is by its content: its MIME type, and of a picture its size as it is shown, px. */
export interface FileKind {
	/** Null where nothing in it tells. */
	readonly type: string | null;
	readonly size: { readonly width: number; readonly height: number } | null;
	/** Whether a picture goes on to its end; true for anything else. */
	readonly whole: boolean;
}

async function fileKind(content: Uint8Array): Promise<FileKind> {
	const found = await fileTypeFromBuffer(content);
	const type = found?.mime ?? null;
	return {
		type,
		size: type?.startsWith('image/') ? pictureSize(content) : null,
		whole: type === null || isWholePicture(type, content)
	};
}

/** Width and height of a picture as it is shown, px; null where they cannot be read. */
function pictureSize(content: Uint8Array): FileKind['size'] {
	try {
		// A copy of its own: the reader would look past the end of a part.
		const { width, height, orientation } = imageSize(new Uint8Array(content));
		if (!(width > 0 && height > 0)) return null;
		// A camera's note on how it was held turns the sides (Exif orientations 5 to 8).
		return (orientation ?? 1) >= 5 ? { width: height, height: width } : { width, height };
	} catch {
		return null;
	}
}

/** How dear a password's hash is; kept with each, so that it can be raised later. */
export interface HashCost {
	readonly N: number;
	readonly r: number;
	readonly p: number;
}
const bytesFor = ({ N, r }: HashCost) => 256 * N * r;

/** scrypt (RFC 7914) of a password. */
function hash(password: string, cost: HashCost): { salt: Uint8Array; hash: Uint8Array } {
	const salt = randomBytes(16);
	return {
		salt,
		hash: scryptSync(password.normalize('NFKC'), salt, 32, { ...cost, maxmem: bytesFor(cost) })
	};
}

function hashFits(password: string, cost: HashCost, salt: Uint8Array, wanted: Uint8Array): boolean {
	const got = scryptSync(password.normalize('NFKC'), salt, wanted.length, {
		...cost,
		maxmem: bytesFor(cost)
	});
	return timingSafeEqual(got, wanted);
}

/** Everything that looks at what strangers hand in. Arguments and results are plain data: they cross threads. */
export const readingTasks = {
	fileKind,
	calendar: readCalendarFile,
	feed: readFeed,
	mail: (message: Uint8Array, returnPath: string | null) =>
		readReturned(Buffer.from(message.buffer, message.byteOffset, message.byteLength), returnPath),
	hash,
	hashFits
} as const;

export type ReadingTasks = typeof readingTasks;
