import type { Landing, TextLengths } from '$lib/server/desk/plan/types';
import type { Draft } from '$lib/server/desk/sheet/types';
import { postJson } from '../../parts/post-json';

/** A server that has not answered by then is taken for one that hangs, ms. */
const tallyTimeoutMs = 60_000;
/** How long after a lost connection or session it is tried again, ms. */
const againMs = 5_000;
/** How long nothing may have changed before the true lengths of texts are asked for, ms: they take longer than the numbers. */
const textsMs = 300;

/** How a sheet lands, asked from the server a moment after it has changed. An answer that comes late does not overwrite a newer one. */
export class Landed {
	landing = $state.raw<Landing | null>(null);
	texts = $state.raw<TextLengths | null>(null);
	trouble = $state('');
	counting = $state(false);
	#timer: ReturnType<typeof setTimeout> | undefined;
	#textTimer: ReturnType<typeof setTimeout> | undefined;
	#againTimer: ReturnType<typeof setTimeout> | undefined;
	#due = 0;
	#asking = false;
	#stale = false;
	#ended = false;

	constructor(
		private readonly data: () => Draft,
		/** Hears whether the session has ended. */
		private readonly onsession: (signedOut: boolean) => void
	) {}

	/** Asks anew; `waitMs` lets a run of keys pass first. */
	ask(waitMs: number): void {
		this.counting = true;
		const due = performance.now() + waitMs;
		// Of several reasons to ask the nearest counts: a pick is not made to wait for keys.
		if (this.#timer !== undefined && due >= this.#due) return;
		clearTimeout(this.#timer);
		this.#due = due;
		this.#timer = setTimeout(() => {
			this.#timer = undefined;
			this.#stale = true;
			void this.#ask();
		}, waitMs);
	}

	/** Its page is left: nothing more is asked. */
	end(): void {
		this.#ended = true;
		clearTimeout(this.#timer);
		clearTimeout(this.#textTimer);
		clearTimeout(this.#againTimer);
	}

	/** One question at a time: what changed meanwhile is asked in the next, so that none wait in a row. */
	async #ask(): Promise<void> {
		if (this.#asking) return;
		this.#asking = true;
		while (this.#stale) {
			this.#stale = false;
			await this.#askOnce();
		}
		this.#asking = false;
		if (this.#timer === undefined) this.counting = false;
	}

	/** Asks for the true lengths of the texts once nothing has changed for a while. */
	#askTexts(): void {
		clearTimeout(this.#textTimer);
		if (!this.data().ways.includes('text')) {
			this.texts = null;
			return;
		}
		this.#textTimer = setTimeout(() => {
			const asked = JSON.stringify(this.data());
			void postJson<TextLengths | null>('/write/texts', this.data()).then((answer) => {
				if (answer.ok && JSON.stringify(this.data()) === asked) this.texts = answer.body;
			});
		}, textsMs);
	}

	async #askOnce(): Promise<void> {
		const answer = await postJson<Landing>('/write/tally', this.data(), tallyTimeoutMs);
		if (answer.ok) this.landing = answer.body;
		if (answer.status === 401) this.onsession(true);
		// A connection that comes back, or a session begun anew in another window, is found without a key.
		clearTimeout(this.#againTimer);
		if (!this.#ended && (answer.status === 0 || answer.status === 401)) {
			this.#againTimer = setTimeout(() => this.ask(0), againMs);
		} else if (answer.ok) this.onsession(false);
		this.#askTexts();
		this.trouble =
			answer.status === 0
				? 'No connection. What you type is kept in this browser; the numbers wait.'
				: answer.why;
	}
}
