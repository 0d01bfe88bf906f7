import type { Sheet } from './sheet';
import type { Wording, Words } from '../../../core/copy/words';

/** A sheet that is not finished: as Write opens it, keeps it in the browser, saves it and sends it. */
export type Draft = Sheet;

/** A draft on the server, with the mark of this version of it. */
export interface SavedDraft extends Draft {
	/** When it was saved (instant, ms); each save has a later one. */
	readonly savedAt: number;
}

export type DraftSaved =
	| { readonly ok: true; readonly dispatchId: number; readonly savedAt: number }
	/** Another window has saved it since: both versions are there to choose from. */
	| { readonly ok: false; readonly reason: 'changed-elsewhere'; readonly other: SavedDraft }
	| { readonly ok: false; readonly reason: 'sent'; readonly dispatchId: number }
	| { readonly ok: false; readonly reason: 'not-yours' };

/** A file that somebody put in, as the sheet shows it. */
export interface KeptFile {
	readonly id: number;
	readonly name: string;
	/** MIME type, told by the content. */
	readonly type: string;
	readonly bytes: number;
	/** Of a picture, px; null for anything else. */
	readonly width: number | null;
	readonly height: number | null;
}

/** A wording to begin from: one's own, or of the set that every school begins with. */
export interface KeptWording {
	/** Null for one of the starting set. */
	readonly id: number | null;
	readonly name: string;
	readonly wording: Wording;
	/** Instant, ms; null for one of the starting set. */
	readonly madeAt: number | null;
}

/** Words drafted in another language, or why there is no draft. */
export type Drafted =
	{ readonly ok: true; readonly words: Words } | { readonly ok: false; readonly why: string };

/** A clock that a sheet's times can be meant by: a school's, or (null) the district's. */
export interface ClockChoice {
	readonly schoolId: number | null;
	readonly name: string;
	/** IANA name of its zone. */
	readonly zone: string;
}
