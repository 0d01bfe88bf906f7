import type { Note } from './note';
import { noteLinkWords, notePhrases } from './note-phrases';
import { pictureCid } from './picture-cid';
import { quietStyle } from './quiet-style';
import { escapeHtml } from './template';

/** A note as it stands in an email: a picture with a link to where it is heard or seen, and what is said in it. */
export interface PageNote {
	readonly words: string;
	readonly href: string;
	readonly picture: {
		readonly cid: string;
		readonly width: number;
		readonly height: number;
	} | null;
	readonly saidWords: string;
	readonly said: string;
}

/** What an email says of a note, in a language; null where there is none. */
export function pageNote(
	note: Note | null | undefined,
	language: string,
	link: string
): PageNote | null {
	if (!note) return null;
	return {
		words: noteLinkWords(note, language),
		href: link,
		picture: note.picture && {
			cid: pictureCid(note.picture.fileId),
			width: note.picture.width,
			height: note.picture.height
		},
		...{ saidWords: notePhrases(language).said, said: note.words.trim() }
	};
}

/** Its picture and its link, and below it what is said, for those who do not hear it. */
export function noteHtml(
	{ words, href, picture, saidWords, said }: PageNote,
	colour: string
): string {
	const h = escapeHtml;
	const shown = picture
		? `<img src="cid:${picture.cid}" width="${picture.width}" height="${picture.height}" alt="" style="max-width:100%;height:auto;border:0;display:block;margin:0 0 4px">`
		: '';
	return (
		`<p style="margin:18px 0 12px"><a href="${h(href)}" style="color:${colour};font-weight:bold">${shown}${h(words)}</a></p>` +
		(said === ''
			? ''
			: `<p style="${quietStyle}" dir="auto"><b>${h(saidWords)}</b><br>${h(said).replace(/\n/g, '<br>')}</p>`)
	);
}
