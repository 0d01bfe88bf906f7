import { getJson } from '../parts/post-json';

/** How far a roster file is. */
export interface FileProgress {
	readonly state: string;
	readonly underWay: boolean;
	/** 0 to 1. */
	readonly done: number;
	readonly what: string;
}

/** How often it is asked for while it is worked on, and looked whether it is, ms. */
const askMs = 400;
const restMs = 1_000;

/**
 * Follows a roster file as long as it is worked on; the page can be left, and shows how it stands when it
 * is opened again. Resolves to what ends it.
 */
export function followFile(
	id: number,
	{
		working,
		heard
	}: { readonly working: () => boolean; readonly heard: (p: FileProgress) => Promise<void> }
): () => void {
	let gone = false;
	const follow = async () => {
		while (!gone) {
			if (working()) {
				const answer = await getJson<FileProgress>(`/people/rosters/${id}/progress`);
				if (gone) return;
				if (answer.ok) await heard(answer.body);
			}
			await new Promise((again) => setTimeout(again, working() ? askMs : restMs));
		}
	};
	void follow();
	return () => (gone = true);
}
