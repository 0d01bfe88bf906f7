/**
 * Whether a picture goes on to its end, or was cut off on its way: told by how its format says that
 * it ends. What stands behind the end is no fault; cameras put things there.
 */
export function isWholePicture(type: string, content: Uint8Array): boolean {
	const view = new DataView(content.buffer, content.byteOffset, content.byteLength);
	try {
		switch (type) {
			case 'image/png':
				return pngEnds(view);
			case 'image/jpeg':
				return jpegEnds(view);
			case 'image/gif':
				return gifEnds(view);
			case 'image/webp':
				// RIFF: the size behind the first four letters counts what follows it (RFC 9649 section 2.3).
				return view.getUint32(4, true) + 8 <= view.byteLength;
			default:
				return true;
		}
	} catch {
		// It reads past the end: there is not as much as it says.
		return false;
	}
}

/** A PNG ends with the chunk IEND (PNG specification, third edition, section 5.6). */
function pngEnds(view: DataView): boolean {
	for (let at = 8; ;) {
		const length = view.getUint32(at);
		const name = view.getUint32(at + 4);
		if (at + 12 + length > view.byteLength) return false;
		if (name === 0x49454e44) return true;
		at += 12 + length;
	}
}

/** A JPEG ends with the marker EOI, after its first scan (ITU-T T.81, section B.1.1.3); one in a thumbnail before that is not its own. */
function jpegEnds(view: DataView): boolean {
	let at = 2;
	for (;;) {
		if (view.getUint8(at) !== 0xff) return false;
		const marker = view.getUint8(at + 1);
		if (marker === 0xff) {
			at += 1;
			continue;
		}
		if (marker === 0xd9) return true;
		const alone = marker === 0x01 || (marker >= 0xd0 && marker <= 0xd7);
		if (marker === 0xda) break;
		at += alone ? 2 : 2 + view.getUint16(at + 2);
	}
	for (at += 2; at + 1 < view.byteLength; at += 1) {
		if (view.getUint8(at) === 0xff && view.getUint8(at + 1) === 0xd9) return true;
	}
	return false;
}

/** A GIF ends with the trailer, behind its blocks (GIF89a specification, section 27). */
function gifEnds(view: DataView): boolean {
	const table = (flags: number) => (flags & 0x80 ? 3 * 2 ** ((flags & 7) + 1) : 0);
	let at = 13 + table(view.getUint8(10));
	const passBlocks = () => {
		for (let size = view.getUint8(at); size !== 0; size = view.getUint8(at)) at += size + 1;
		at += 1;
	};
	for (;;) {
		switch (view.getUint8(at)) {
			case 0x3b:
				return true;
			case 0x21:
				at += 2;
				passBlocks();
				break;
			case 0x2c:
				at += 10 + table(view.getUint8(at + 9)) + 1;
				passBlocks();
				break;
			default:
				return false;
		}
	}
}
