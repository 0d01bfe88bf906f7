import { DateTime } from 'luxon';
import { goto, invalidateAll } from '$app/navigation';
import { localOf, type LocalTime } from '$lib/core/time/local';
import { usualTime, type DayPart } from '$lib/core/time/zone';
import { dayTime } from '../parts/clock';
import type { MoveEffect } from '$lib/server/desk/plan/types';
import type { DispatchMoved } from '$lib/server/desk/send/types';
import type { DispatchLine, WeekView } from '$lib/server/desk/week/types';
import { postJson } from '../parts/post-json';

/** What came of a move. */
interface Said {
	readonly kind: 'success' | 'error';
	readonly text: string;
	/** The move that takes it back. */
	readonly undo?: { readonly line: DispatchLine; readonly to: LocalTime; readonly base: number };
}

/** Dispatches on their way to another day of the week that is shown: what is dragged or asked about, and what moving it to each day does. */
export class Moving {
	/** What is dragged. */
	lifted = $state.raw<DispatchLine | null>(null);
	/** A tag taken over the edge to another week: it is put down there by a press, and each day shows what that does. */
	carried = $state.raw<DispatchLine | null>(null);
	/** What the dialog asks about. */
	asked = $state.raw<DispatchLine | null>(null);
	effects = $state.raw<readonly MoveEffect[] | null>(null);
	said = $state.raw<Said | null>(null);
	readonly #view: () => WeekView;

	constructor(view: () => WeekView) {
		this.#view = view;
	}

	lift(line: DispatchLine): void {
		this.lifted = line;
		void this.#askEffects(line, () => this.lifted?.id === line.id);
	}
	/** Opens the dialog about one. */
	ask(line: DispatchLine): void {
		this.asked = line;
		void this.#askEffects(line, () => this.asked?.id === line.id);
	}
	/** The dialog could not be loaded. */
	askedInVain(): void {
		this.asked = null;
		this.said = {
			kind: 'error',
			text: 'No connection, so the times to move it to could not be shown. Load the page again.'
		};
	}

	/** Takes one over the edge of the week. */
	async carry(line: DispatchLine, byDays: number): Promise<void> {
		this.carried = line;
		this.effects = null;
		const { days, zone } = this.#view();
		const first = DateTime.fromMillis(days[0]!.from, { zone });
		await goto(`?day=${first.plus({ days: byDays }).toISODate()}`, { keepFocus: true });
		await this.#askEffects(line, () => this.carried?.id === line.id);
	}
	putDown(date: string, part: DayPart): void {
		const line = this.carried;
		this.carried = null;
		if (line) this.drop(line, date, part);
	}

	/** What moving it to a day does, while it is in hand; null where nothing is, or it is not known yet. */
	effectOn(date: string): MoveEffect | null {
		if (!this.lifted && !this.carried) return null;
		return this.effects?.find((e) => e.date === date) ?? null;
	}

	async #askEffects(line: DispatchLine, stillWanted: () => boolean): Promise<void> {
		this.effects = null;
		const answer = await postJson<MoveEffect[]>('/week/effects', {
			dispatchId: line.id,
			from: this.#view().days[0]!.date
		});
		if (answer.ok && stillWanted()) this.effects = answer.body;
	}

	/** Where it stood in its part of day, or the usual time of the part it comes to. */
	drop(line: DispatchLine, date: string, part: DayPart): void {
		const own = localOf(momentOf(line), this.#view().zone).slice(11);
		void this.move(line, `${date}T${usualTime(part, own)}`);
	}
	/** Nothing ordinary leaves in quiet hours: it stays where it was, and that is said. */
	async dropInQuiet(line: DispatchLine): Promise<void> {
		this.said = {
			kind: 'error',
			text: `${line.subject} stays where it was: nothing ordinary leaves in quiet hours.`
		};
		await invalidateAll();
	}

	async move(line: DispatchLine, to: LocalTime, base = line.changedAt): Promise<void> {
		this.asked = null;
		const { zone } = this.#view();
		const before = localOf(momentOf(line), zone);
		const answer = await postJson<DispatchMoved>('/week/move', { dispatchId: line.id, to, base });
		if (answer.ok && answer.body.ok) {
			await invalidateAll();
			const now = this.find(line.id);
			this.said = {
				kind: 'success',
				text: `${line.subject} ${line.state === 'draft' ? 'is meant for' : 'leaves'} ${dayTime(answer.body.at, zone)}.`,
				...(now ? { undo: { line: now, to: before, base: now.changedAt } } : {})
			};
			return;
		}
		this.said = {
			kind: 'error',
			text:
				answer.status === 0
					? 'No connection, so nothing was moved.'
					: answer.body && !answer.body.ok
						? answer.body.why
						: answer.why
		};
		await invalidateAll();
	}

	/** A dispatch of the week that is shown. */
	find(id: number): DispatchLine | undefined {
		return this.#view()
			.days.flatMap((d) => Object.values(d.tags).flat())
			.find((l) => l.id === id);
	}
}

const momentOf = (line: DispatchLine): number => line.leavesAt ?? line.intendedAt!;
