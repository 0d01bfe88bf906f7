/** What can be packed up. */
export const leavingParts = ['tables', 'letters', 'calendars', 'cards', 'files'] as const;
export type LeavingPart = (typeof leavingParts)[number];

/** Something that was packed up, as its page shows it. */
export interface LeavingView {
	readonly id: number;
	readonly by: string;
	readonly askedAt: number;
	readonly parts: readonly LeavingPart[];
	readonly state: 'making' | 'ready' | 'taken' | 'failed' | 'gone';
	/** How far it is, 0 to 1, while it is made. */
	readonly done: number;
	readonly bytes: number | null;
	/** When its file goes; null where it has none. */
	readonly until: number | null;
	readonly why: string | null;
	/** Whether it was the user who asked for it: nobody else takes it. */
	readonly mine: boolean;
}
