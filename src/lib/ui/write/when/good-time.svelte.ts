import { postJson } from '../../parts/post-json';
import type { Sheet } from '../sheet/sheet.svelte';

/** How long who and how must have been settled before it is asked, ms. */
const restMs = 600;

/** When such people read soonest: asked once who and how are settled, and time is being chosen. */
export class GoodTime {
	hint = $state('');

	/** `sheet` is null while none is ready. */
	constructor(sheet: () => Sheet | null) {
		const asked = $derived.by(() => {
			const one = sheet();
			return one && one.timing.when.kind !== 'now'
				? JSON.stringify([one.audience, one.ways, one.kind])
				: null;
		});
		$effect(() => {
			const now = asked;
			this.hint = '';
			if (now === null) return;
			const timer = setTimeout(async () => {
				const answer = await postJson<{ hint: string }>('/write/good-time', sheet()!.sending);
				if (answer.ok && asked === now) this.hint = answer.body.hint;
			}, restMs);
			return () => clearTimeout(timer);
		});
	}
}
