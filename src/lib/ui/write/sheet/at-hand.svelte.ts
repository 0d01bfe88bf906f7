import { replaceState } from '$app/navigation';
import { page } from '$app/state';
import type { Audience } from '$lib/core/audience/audience';
import type { EventProposal } from '$lib/server/desk/audience/types';
import type { Draft, SavedDraft } from '$lib/server/desk/sheet/types';
import { postJson } from '../../parts/post-json';
import { draftMark } from './draft-mark';
import { newSheet } from './fields.svelte';
import { openSheet, Sheet } from './sheet.svelte';
import { Shelf, type KeptSheet } from './shelf';

/** The sheet that is worked on, and the others that lie on the shelf of this browser beside it. */
export class AtHand {
	sheet = $state.raw<Sheet>() as Sheet;
	/** Whether the shelf has been looked at: before that nothing is kept or counted. */
	ready = $state(false);
	/** Whether the sheet is the one that was left in this browser. */
	restored = $state(false);
	/** Sheets in this browser that the server does not have, beside this one. */
	unsaved = $state.raw<readonly KeptSheet[]>([]);
	/** What was done to the sheet before this one, with what can be taken back. */
	said = $state.raw<{ readonly text: string; readonly undo: KeptSheet | Draft | null } | null>(
		null
	);
	readonly #shelf: Shelf;
	readonly #draft: SavedDraft | null;
	/** The school whose clock new sheets go by. */
	readonly #clock: number | null;

	/** `draft` is the one that was asked for, as the server has it; `clock` the school that whoever writes works at. */
	constructor(userId: number, draft: SavedDraft | null, clock: number | null) {
		this.#clock = clock;
		this.#shelf = new Shelf(userId);
		this.#draft = draft;
		this.sheet = new Sheet(draft ?? newSheet(this.#clock), this.#shelf);
	}

	/** Opens the sheet that belongs here, and puts an audience into it. */
	open(use: Audience | null): void {
		const shelf = this.#shelf;
		const draft = this.#draft;
		const own = this.#mine();
		if (own) this.sheet = own;
		this.restored = own !== null && !draft;
		shelf.current = this.sheet.sheetKey;
		if (use) this.sheet.addAudience(use);
		this.ready = true;
		// What only the browser's database still has of a window that was killed comes a moment later.
		const opened = draftMark(this.sheet.data);
		const { current } = shelf;
		void shelf.recover().then(() => {
			// Started anew and still empty it stays, unless a killed window has left something newer.
			if (shelf.current === current && this.sheet.empty && !draft) {
				this.#look();
				return;
			}
			const untouched = draftMark(this.sheet.data) === opened;
			const newer = this.#mine();
			if (untouched && newer && draftMark(newer.data) !== opened && !use) {
				this.sheet = newer;
				this.restored = !draft;
				shelf.current = newer.sheetKey;
			}
			this.#look();
		});
	}

	/** The draft that was asked for, or the sheet that was worked on last if it lies here with anything in it. */
	#mine(): Sheet | null {
		if (this.#draft) return openSheet(this.#draft, this.#shelf);
		const kept = this.#shelf.get(page.url.searchParams.get('sheet') ?? this.#shelf.current ?? '');
		const own = kept && new Sheet(kept, this.#shelf);
		return own && !own.empty ? own : null;
	}

	#look(): void {
		this.unsaved = this.#shelf.unsaved().filter((s) => s.sheetKey !== this.sheet.sheetKey);
	}

	/** Takes another sheet; the one before it lies on the shelf or with the server. */
	#take(next: Sheet): void {
		this.restored = false;
		this.sheet = next;
		this.#shelf.current = next.sheetKey;
		this.#look();
		if (page.url.search !== '') replaceState('/write', {});
	}

	/** Begins a new sheet; the one before is saved behind it, since the next key is meant for the new one. */
	async startNew(): Promise<void> {
		const before = this.sheet;
		this.said = null;
		if (before.sentAs !== null) before.forget();
		this.#take(new Sheet(newSheet(this.#clock), this.#shelf));
		if (before.sentAs !== null) return;
		if (before.empty) {
			before.forget();
			return;
		}
		const saved = await before.leave();
		this.said = {
			text: saved
				? 'The sheet before is saved as a draft.'
				: 'The sheet before could not be saved; it is kept in this browser.',
			undo: null
		};
		this.#look();
	}

	/** Begins a sheet about an event, to those it concerns and with its reminders; one that is under way is put by first. */
	async beginAbout({ eventId, audience, offsets }: EventProposal): Promise<void> {
		if (!this.sheet.empty) await this.startNew();
		const { sheet } = this;
		sheet.addAudience(audience);
		sheet.timing = {
			...sheet.timing,
			when: { kind: 'event', eventId, offsets: [...offsets] }
		};
	}

	async deleteDraft(): Promise<void> {
		const gone = this.sheet.data;
		this.sheet.forget();
		this.#take(new Sheet(newSheet(this.#clock), this.#shelf));
		const answer = await postJson('/write/draft/throw-away', { sheetKey: gone.sheetKey });
		this.said = {
			text: answer.ok
				? `Deleted${gone.wording.words.subject ? `: ${gone.wording.words.subject}` : ''}.`
				: 'Deleted here; the server does not answer and may still have it among the drafts.',
			undo: gone
		};
	}

	/** Brings a deleted draft back: as it was, and saved again. */
	bringBack(): void {
		if (!this.said?.undo) return;
		const back = new Sheet({ ...this.said.undo, savedAt: null }, this.#shelf);
		this.said = null;
		this.#take(back);
	}

	/** Goes on with another window's version of this sheet. */
	useOther(): void {
		if (this.sheet.other) this.#take(new Sheet(this.sheet.other, this.#shelf));
	}
}
