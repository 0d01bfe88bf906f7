import { plainFileName } from '../../../core/format/file-name';
import { read, TooLong } from '../../reading/reading';
import type { FileKind } from '../../reading/tasks';

/** What may go with a letter, by its content, with the ending its name has. */
const allowed: Readonly<
	Record<string, { readonly endings: readonly string[]; readonly picture?: true }>
> = {
	'image/png': { endings: ['png'], picture: true },
	'image/jpeg': { endings: ['jpg', 'jpeg'], picture: true },
	'image/gif': { endings: ['gif'], picture: true },
	'image/webp': { endings: ['webp'], picture: true },
	'application/pdf': { endings: ['pdf'] },
	'application/vnd.openxmlformats-officedocument.wordprocessingml.document': { endings: ['docx'] },
	'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet': { endings: ['xlsx'] },
	'application/vnd.openxmlformats-officedocument.presentationml.presentation': {
		endings: ['pptx']
	},
	'application/vnd.oasis.opendocument.text': { endings: ['odt'] },
	'application/vnd.oasis.opendocument.spreadsheet': { endings: ['ods'] },
	'audio/mpeg': { endings: ['mp3'] },
	'audio/x-m4a': { endings: ['m4a'] },
	'video/mp4': { endings: ['mp4'] },
	// As browsers record it; sound alone is of this kind too.
	'video/webm': { endings: ['webm'] },
	// Not shown by every reader, so no picture for the words; as a file it goes.
	'image/heic': { endings: ['heic'] },
	'image/heif': { endings: ['heif', 'heic'] },
	'text/calendar': { endings: ['ics'] },
	'text/vcard': { endings: ['vcf'] }
};
/** Texts have no mark by which content tells its kind: these endings are believed where the content is text. */
const texts: Readonly<Record<string, string>> = {
	txt: 'text/plain',
	csv: 'text/csv',
	ics: 'text/calendar',
	vcf: 'text/vcard'
};

const endingOf = (name: string): string =>
	/\.([a-z0-9]{1,8})$/i.exec(name)?.[1]?.toLowerCase() ?? '';

/** The type of a content, or why it is not taken. Its name is believed only among plain texts. */
function typeOf(
	name: string,
	found: string | null,
	content: Buffer
): { ok: true; type: string; name: string } | { ok: false; why: string } {
	if (found !== null) {
		const kind = allowed[found];
		if (!kind) {
			return {
				ok: false,
				why: `“${name}” is a file of the type ${found}, which many mail systems refuse. Save it as PDF, picture or office document.`
			};
		}
		// A name with another ending would open in the wrong program.
		const fits = kind.endings.includes(endingOf(name));
		return { ok: true, type: found, name: fits ? name : `${name}.${kind.endings[0]}` };
	}
	const ending = endingOf(name);
	const type = texts[ending];
	if (type && isText(content)) return { ok: true, type, name };
	if (ending === '' && isText(content))
		return { ok: true, type: 'text/plain', name: `${name}.txt` };
	return {
		ok: false,
		why: `What “${name}” holds is none of the kinds that can be sent: PDF, picture, office document, sound, film, or plain text.`
	};
}

function isText(content: Buffer): boolean {
	if (content.includes(0)) return false;
	try {
		new TextDecoder('utf-8', { fatal: true }).decode(content);
		return true;
	} catch {
		return false;
	}
}

/** What is said of a file that is too big. */
export const tooBig = (name: string, bytes: number, limitBytes: number): string =>
	`“${name}” has ${Math.ceil(bytes / 1e6)} MB; ${limitBytes / 1e6} MB are taken at most. Make it smaller, or put it on a page and link to it.`;

/** A file as its content shows it. */
export interface LookedAt {
	readonly ok: true;
	/** With the ending that fits its kind. */
	readonly name: string;
	readonly type: string;
	/** Whether every browser shows it. */
	readonly isPicture: boolean;
	/** Of a picture, px. */
	readonly width: number | null;
	readonly height: number | null;
}

/** What a file that somebody handed in is, by its content; or why it is not taken. */
export async function lookAtFile(
	givenName: string,
	content: Buffer,
	limitBytes: number
): Promise<LookedAt | { readonly ok: false; readonly why: string }> {
	const name = plainFileName(givenName);
	if (content.length === 0) return { ok: false, why: `“${name}” is empty.` };
	if (content.length > limitBytes) {
		return { ok: false, why: tooBig(name, content.length, limitBytes) };
	}
	let kind: FileKind;
	try {
		kind = await read('fileKind', [content]);
	} catch (error) {
		if (!(error instanceof TooLong)) throw error;
		return {
			ok: false,
			why: `“${name}” cannot be read: it is broken, or made to hold others up. Save it anew, or as PDF.`
		};
	}
	const typed = typeOf(name, kind.type, content);
	if (!typed.ok) return typed;
	const isPicture = allowed[typed.type]?.picture === true;
	const { size } = kind;
	if (isPicture && !size) {
		return { ok: false, why: `“${name}” is a broken picture: its size cannot be read.` };
	}
	if (isPicture && !kind.whole) {
		return {
			ok: false,
			why: `“${name}” is cut off: its end is missing. Save or download it again.`
		};
	}
	return {
		...{ ok: true, name: typed.name, type: typed.type, isPicture },
		width: isPicture ? size!.width : null,
		height: isPicture ? size!.height : null
	};
}
