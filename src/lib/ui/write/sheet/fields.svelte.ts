import type { Audience, ByHand } from '$lib/core/audience/audience';
import { emptyWords, isEmptyWords, type Wording } from '$lib/core/copy/words';
import type { WaysByHand } from '$lib/core/plan/handling';
import type { Turn } from '$lib/core/plan/turns';
import { usualWanted, type Wanted } from '$lib/core/plan/wanted';
import type { DispatchKind } from '$lib/core/roster/types';
import type { Way } from '$lib/core/roster/way';
import type { Timing } from '$lib/core/time/timing';
import type { CoverRule } from '$lib/core/track/coverage';
import type { Draft } from '$lib/server/desk/sheet/types';
import { Line, newLine } from './line.svelte';

export const newSheet = (clock: number | null = null): Draft => ({
	sheetKey: crypto.randomUUID(),
	audience: { version: 2, lines: [newLine()], byHand: [] },
	kind: 'message',
	ways: ['email', 'inbox'],
	copies: {
		perStudent: false,
		perPerson: false,
		waysByHand: [],
		toSender: false,
		accountByMail: false,
		leastTried: false,
		toColleagues: []
	},
	turns: [],
	cover: 'adult',
	chases: null,
	wording: { language: 'en', words: emptyWords, variants: [] },
	letter: {
		...{ replyTo: '', askReceipt: false, note: null, sectionBefore: false, sectionLine: false },
		files: []
	},
	board: { on: true, from: null, until: null, pinned: false },
	invitation: null,
	event: null,
	timing: { when: { kind: 'now' }, ends: null, clock, urgent: false },
	wanted: usualWanted,
	holdMinutes: 5
});

/** All that a sheet holds, as it is typed and picked. */
export class SheetFields {
	lines = $state<Line[]>([]);
	byHand = $state<ByHand[]>([]);
	kind = $state<DispatchKind>('message');
	ways = $state<Way[]>([]);
	/** Never changed, only exchanged. */
	turns = $state.raw<readonly Turn[]>([]);
	cover = $state<CoverRule>('adult');
	chases = $state<number | null>(null);
	perStudent = $state(false);
	perPerson = $state(false);
	waysByHand = $state<WaysByHand[]>([]);
	toSender = $state(false);
	accountByMail = $state(false);
	leastTried = $state(false);
	toColleagues = $state<number[]>([]);
	/** Never changed, only exchanged. */
	wording = $state.raw<Wording>(newSheet().wording);
	letter = $state.raw<Draft['letter']>(newSheet().letter);
	board = $state.raw<Draft['board']>(newSheet().board);
	/** What it asks its readers. Never changed, only exchanged. */
	invitation = $state.raw<Draft['invitation']>(null);
	/** What it puts into the calendar. Never changed, only exchanged. */
	event = $state.raw<Draft['event']>(null);
	/** By when how many are to know. Never changed, only exchanged. */
	wanted = $state.raw<Wanted>(usualWanted);
	/** Never changed, only exchanged. */
	timing = $state.raw<Timing>(newSheet().timing);
	holdMinutes = $state(5);

	constructor(readonly sheetKey: string) {}

	/** Takes everything that a sheet holds from a draft. */
	protected take(data: Draft): void {
		this.setAudience(data.audience);
		this.kind = data.kind;
		this.ways = [...data.ways];
		this.turns = data.turns;
		this.cover = data.cover;
		this.chases = data.chases;
		const { copies } = data;
		this.perStudent = copies.perStudent;
		this.perPerson = copies.perPerson;
		this.waysByHand = copies.waysByHand.map((w) => ({ ...w, ways: [...w.ways] }));
		this.toSender = copies.toSender;
		this.accountByMail = copies.accountByMail;
		this.leastTried = copies.leastTried;
		this.toColleagues = [...copies.toColleagues];
		this.wording = data.wording;
		this.letter = data.letter;
		this.board = data.board;
		// What older browsers kept has none.
		this.invitation = data.invitation ?? null;
		this.event = data.event ?? null;
		// What older browsers kept has none.
		this.wanted = data.wanted ?? usualWanted;
		this.timing = data.timing;
		this.holdMinutes = data.holdMinutes;
	}

	/** The original's subject as it was typed. */
	get subject(): string {
		return this.wording.words.subject;
	}

	setAudience(audience: Audience): void {
		this.lines = (audience.lines.length > 0 ? audience.lines : [newLine()]).map((l) => new Line(l));
		this.byHand = [...audience.byHand];
	}

	/** Puts a kept audience in: beside the lines that are there, or in the place of an empty one. */
	addAudience(audience: Audience): void {
		const own = this.lines.filter((l) => l.count > 0);
		this.lines = [...own, ...audience.lines.map((l) => new Line(l))];
		const here = this.byHand.map((h) => h.personId);
		this.byHand = [...this.byHand, ...audience.byHand.filter((h) => !here.includes(h.personId))];
	}

	get audience(): Audience {
		return {
			version: 2,
			lines: this.lines.map((line) => line.data),
			byHand: this.byHand.map((h) => ({ ...h }))
		};
	}

	/** Who gets a copy, how and when: what the manifest is made from. */
	get sending() {
		return {
			kind: this.kind,
			audience: this.audience,
			ways: [...this.ways],
			turns: [...this.turns],
			chases: this.chases,
			copies: {
				perStudent: this.perStudent,
				perPerson: this.perPerson,
				waysByHand: $state.snapshot(this.waysByHand) as Draft['copies']['waysByHand'],
				toSender: this.toSender,
				accountByMail: this.accountByMail,
				leastTried: this.leastTried,
				toColleagues: [...this.toColleagues]
			},
			timing: this.timing,
			holdMinutes: this.holdMinutes
		};
	}

	get data(): Draft {
		return {
			sheetKey: this.sheetKey,
			...this.sending,
			cover: this.cover,
			wording: this.wording,
			letter: this.letter,
			board: this.board,
			invitation: this.invitation,
			event: this.event,
			wanted: this.wanted
		};
	}

	/** Whether nothing has been picked or typed yet. */
	get empty(): boolean {
		return (
			isEmptyWords(this.wording.words) &&
			Object.keys(this.wording.words.own).length === 0 &&
			this.wording.variants.length === 0 &&
			this.letter.files.length === 0 &&
			this.byHand.length === 0 &&
			this.lines.every((l) => l.count === 0)
		);
	}
}
