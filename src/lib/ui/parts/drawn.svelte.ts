import type { TimeChart } from './chart';

/**
 * A chart that is drawn once its package has come: the figures of a page do not wait for it. Called while a
 * component is made; `null` until it has come.
 */
export function comingChart(): { readonly chart: TimeChart | null } {
	let chart = $state.raw<TimeChart | null>(null);
	$effect(() => {
		let gone = false;
		const load = async () => {
			const { TimeChart } = await import('./chart');
			if (!gone) chart = new TimeChart();
		};
		// Without a connection nothing is drawn: its figures stand beside it as numbers.
		load().catch(() => {});
		return () => {
			gone = true;
			chart?.end();
		};
	});
	return {
		get chart() {
			return chart;
		}
	};
}
