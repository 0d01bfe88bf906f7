import type { ChartDataset } from 'chart.js';

/** A token as a colour that a canvas knows, whichever of its two it is now. */
export function tokenColor(name: string): string {
	const probe = document.createElement('i');
	probe.style.color = `var(${name})`;
	document.body.append(probe);
	const value = getComputedStyle(probe).color;
	probe.remove();
	return value;
}

/** A point of a line over time: minutes after it began, and how many. */
export interface LinePoint {
	readonly x: number;
	readonly y: number;
}
/** A line of a chart. */
export type Line = ChartDataset<'line', LinePoint[]>;

/** A band between two lines, as two of the lines of a chart. */
export const bandLines = (
	band: readonly { readonly x: number; readonly low: number; readonly high: number }[]
): Line[] => [
	{
		data: band.map(({ x, low }) => ({ x, y: low })),
		...{ borderWidth: 0, pointRadius: 0, tension: 0.2, order: 1 }
	},
	{
		data: band.map(({ x, high }) => ({ x, y: high })),
		backgroundColor: tokenColor('--band'),
		// Beneath every line.
		...{ borderWidth: 0, pointRadius: 0, fill: '-1', tension: 0.2, order: 1 }
	}
];
