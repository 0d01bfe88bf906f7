import { SvelteMap } from 'svelte/reactivity';
import type { Draft, DraftSaved, SavedDraft } from '$lib/server/desk/sheet/types';
import type { Landing, TextLengths } from '$lib/server/desk/plan/types';
import { postJson } from '../../parts/post-json';
import { draftMark } from './draft-mark';
import { SheetFields } from './fields.svelte';
import { History } from './history';
import { Landed } from './landed.svelte';
import type { Shelf, KeptSheet } from './shelf';

/** A server that has not answered by then is taken for one that hangs, ms: what is typed is said not to be saved. */
const saveTimeoutMs = 8_000;

/**
 * The sheet in Write: what is typed, kept in the browser at every key, and how it lands, asked from
 * the server a moment after. An answer that comes late does not overwrite a newer one.
 */
export class Sheet extends SheetFields {
	/** How it lands, as the server says. */
	readonly #landed = new Landed(
		() => this.data,
		(signedOut) => (this.signedOut = signedOut)
	);
	/** What stands in a field and cannot be read, by its place: then nothing may be done by what was there before. */
	readonly #unread = new SvelteMap<string, string>();
	/** The version on the server that this one was made from; null while there is none. */
	savedAt = $state<number | null>(null);
	/** Whether the session has ended: then nothing is saved or counted until somebody has signed in again. */
	signedOut = $state(false);
	/** Why the last save did not work, or empty. */
	saveTrouble = $state('');
	/** Another window's version of this sheet, to be chosen from. */
	other = $state.raw<SavedDraft | null>(null);
	/** The dispatch that another window made of this sheet. */
	sentAs = $state<number | null>(null);
	readonly #history: History<Draft>;
	/** Marks of the versions that were sent last. */
	#sent: string[] = [];
	#saveTimer: ReturnType<typeof setTimeout> | undefined;
	#saving = false;
	#gone = false;
	/** Whether its page has been left: another one may have the sheet in hand by now. */
	#left = false;
	#saved = '';
	readonly #shelf: Shelf;
	/** Mark of the version that the server has, where it has one. */
	#savedMark: string | undefined;

	constructor(
		data: Draft & Partial<Pick<KeptSheet, 'savedAt' | 'sent' | 'savedMark'>>,
		shelf: Shelf
	) {
		super(data.sheetKey);
		this.#sent = [...(data.sent ?? [])];
		this.savedAt = data.savedAt ?? null;
		this.#savedMark = data.savedMark;
		this.#shelf = shelf;
		this.take(data);
		this.#history = new History(this.data);
	}

	/** Says what stands in a place and cannot be read; empty for nothing. */
	sayUnread(place: 'when' | 'boards' | 'invitation' | 'event', words: string): void {
		if (words === '') this.#unread.delete(place);
		else this.#unread.set(place, words);
	}
	/** What stands somewhere and cannot be read, or empty. */
	get unread(): string {
		return this.#unread.values().next().value ?? '';
	}

	get landing(): Landing | null {
		return this.#landed.landing;
	}
	set landing(landing: Landing | null) {
		this.#landed.landing = landing;
	}
	/** True lengths of the texts; null where none is sent or not yet known. */
	get texts(): TextLengths | null {
		return this.#landed.texts;
	}
	/** Why the numbers could not be had, or empty. */
	get trouble(): string {
		return this.#landed.trouble;
	}
	get counting(): boolean {
		return this.#landed.counting;
	}
	/** Asks how it lands; `waitMs` lets a run of keys pass first. */
	count(waitMs: number): void {
		this.#landed.ask(waitMs);
	}

	/** Notes the sheet as a step that can be taken back. */
	note(data: Draft = this.data): void {
		this.#history.note(data, performance.now());
	}
	undo(): void {
		const before = this.#history.undo();
		if (before) this.take(before);
	}
	redo(): void {
		const next = this.#history.redo();
		if (next) this.take(next);
	}

	/** Keeps the sheet in the browser. A browser that does not allow it keeps nothing; the sheet works all the same. */
	keep(data: Draft = this.data): void {
		if (this.#gone || this.#left) return;
		// What holds nothing yet is not worth a place.
		if (this.empty && this.savedAt === null && !this.#shelf.get(this.sheetKey)) return;
		this.#shelf.keep({
			...data,
			savedAt: this.savedAt,
			sent: this.#sent,
			keptAt: Date.now(),
			...(this.#savedMark === undefined ? {} : { savedMark: this.#savedMark })
		});
	}

	/** Notes beside the sheet that is kept, whoever has it in hand, what the server has of it. */
	#keepSaved(): void {
		const kept = this.#gone ? null : this.#shelf.get(this.sheetKey);
		if (!kept) return;
		this.#shelf.keep({
			...kept,
			savedAt: this.savedAt,
			sent: this.#sent,
			...(this.#savedMark === undefined ? {} : { savedMark: this.#savedMark })
		});
	}

	/** Its page is left. What waited to be saved is saved now; nothing of it is kept in the browser over what another page makes of the sheet. */
	pageLeft(): void {
		this.#landed.end();
		clearTimeout(this.#saveTimer);
		this.#left = true;
		void this.#saveRest();
	}
	async #saveRest(): Promise<void> {
		while (this.#saving) await new Promise((r) => setTimeout(r, 50));
		if (!this.#gone) await this.#save();
	}

	/** Nothing more is saved or kept of it: it has been sent or deleted. */
	forget(): void {
		this.#gone = true;
		this.#landed.end();
		clearTimeout(this.#saveTimer);
		this.#shelf.forget(this.sheetKey);
	}

	/** Leaves it for another: saved if that works, and in this browser if not. Resolves to whether the server has it all. */
	async leave(): Promise<boolean> {
		clearTimeout(this.#saveTimer);
		if (this.#gone) return true;
		if (this.empty && this.savedAt === null) {
			this.forget();
			return true;
		}
		await this.#saveRest();
		clearTimeout(this.#saveTimer);
		this.#gone = true;
		this.#landed.end();
		this.#shelf.tidy(this.sheetKey);
		return this.#shelf.get(this.sheetKey) === null;
	}

	/** Saves within a second of rest, one save at a time; what changes meanwhile is saved after it. */
	saveSoon(waitMs = 700): void {
		clearTimeout(this.#saveTimer);
		if (this.#gone || this.#left) return;
		this.#saveTimer = setTimeout(() => void this.#save(), waitMs);
	}

	async #save(): Promise<void> {
		const data = this.data;
		const text = JSON.stringify(data);
		const mark = draftMark(data);
		if (this.other || this.sentAs !== null || text === this.#saved) return;
		if (this.empty && this.savedAt === null) return;
		if (this.#saving) return this.saveSoon();
		this.#saving = true;
		// A save that is not answered (a crash, a lost connection) may have arrived: it is known again by its mark.
		this.#sent = [...this.#sent, mark].slice(-5);
		this.keep(data);
		this.#keepSaved();
		const answer = await postJson<DraftSaved>(
			'/write/draft',
			{ sheet: data, base: this.savedAt },
			saveTimeoutMs
		);
		this.#saving = false;
		const saved = answer.body;
		this.saveTrouble = '';
		this.signedOut = answer.status === 401;
		if (answer.ok && saved.ok) {
			this.#saved = text;
			this.#savedMark = mark;
			this.savedAt = saved.savedAt;
			this.#keepSaved();
			return;
		}
		if (answer.status !== 409 || saved.ok) {
			this.saveTrouble =
				answer.status !== 0
					? answer.why
					: answer.hung
						? 'the server does not answer'
						: 'no connection';
			// Tried again by itself: a lost connection comes back without a key being touched.
			this.saveSoon(5000);
			return;
		}
		switch (saved.reason) {
			case 'changed-elsewhere':
				if (this.#isOurs(saved.other)) {
					this.savedAt = saved.other.savedAt;
					this.saveSoon(0);
				} else this.other = saved.other;
				return;
			case 'sent':
				this.sentAs = saved.dispatchId;
				return;
			case 'not-yours':
				this.saveTrouble = 'this sheet belongs to someone else; start a new one';
		}
	}

	/** Whether a version on the server is one that this sheet has sent, or says the same. */
	#isOurs(other: Draft): boolean {
		// Through a sheet, so that both have their parts in the same order.
		const mark = draftMark(new Sheet(other, this.#shelf).data);
		return this.#sent.includes(mark) || mark === draftMark(this.data);
	}

	/** Keeps this version where another window has saved its own: that one is overwritten. */
	keepThis(): void {
		this.savedAt = this.other?.savedAt ?? null;
		this.other = null;
		this.saveSoon(0);
	}
}

/** Which version of a draft to open: the browser's where it goes on from the saved one, the saved one where they are the same, and both to choose from where each has gone its own way. */
export function openSheet(saved: SavedDraft, shelf: Shelf): Sheet {
	const kept = shelf.get(saved.sheetKey);
	const mark = draftMark(new Sheet(saved, shelf).data);
	const fromServer = new Sheet({ ...saved, savedMark: mark }, shelf);
	if (!kept) return fromServer;
	const here = new Sheet(kept, shelf);
	if (draftMark(here.data) === mark) return fromServer;
	if (kept.savedAt !== saved.savedAt) {
		if (kept.sent?.includes(mark)) here.savedAt = saved.savedAt;
		else here.other = saved;
	}
	return here;
}
