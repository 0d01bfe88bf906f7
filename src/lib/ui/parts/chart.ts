import {
	Chart,
	Filler,
	LinearScale,
	LineController,
	LineElement,
	PointElement,
	Tooltip,
	type ChartDataset,
	type ChartOptions
} from 'chart.js';
import { clockTime } from './clock';
import { stretchWords } from '$lib/core/time/stretch';

Chart.register(LineController, LineElement, PointElement, LinearScale, Tooltip, Filler);

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

/** What is drawn over time. */
export interface OverTime {
	readonly lines: Line[];
	/** When it begins (instant, ms), the minutes that it lasts, and how many there are in all. */
	readonly from: number;
	readonly end: number;
	readonly all: number;
	readonly zone: string;
	/** What is said at a point, by its line’s number; null for lines that say nothing. */
	readonly title: (minutes: number) => string;
	readonly says: (line: number, count: number) => string | null;
}

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

const day = 1440;
/** The marks of a time of so many minutes: whole parts of days where it is long, else the chart’s own. */
function marksOf(end: number): number[] | null {
	const step = [360, 720, day, 2 * day, 7 * day].find((s) => end > 20 * 60 && end / s <= 4);
	return step ? Array.from({ length: Math.floor(end / step) + 1 }, (_, i) => i * step) : null;
}

function optionsOf(drawn: () => OverTime): ChartOptions<'line'> {
	const font = { family: getComputedStyle(document.body).fontFamily, size: 11 };
	const at = (minutes: number) => drawn().from + minutes * 60_000;
	return {
		animation: false,
		maintainAspectRatio: false,
		interaction: { mode: 'nearest', axis: 'x', intersect: false },
		plugins: {
			tooltip: {
				displayColors: false,
				filter: (item) => drawn().says(item.datasetIndex, 0) !== null,
				callbacks: {
					title: (items) => (items[0] ? drawn().title(items[0].parsed.x ?? 0) : ''),
					label: (item) => drawn().says(item.datasetIndex, item.parsed.y ?? 0) ?? ''
				}
			}
		},
		scales: {
			x: {
				type: 'linear',
				min: 0,
				afterBuildTicks(axis) {
					const marks = marksOf(drawn().end);
					if (marks) axis.ticks = marks.map((value) => ({ value }));
				},
				grid: { display: false },
				border: { color: tokenColor('--line-strong') },
				ticks: {
					font,
					color: tokenColor('--quiet'),
					maxTicksLimit: 4,
					maxRotation: 0,
					// Whole minutes: two marks must not read the same.
					precision: 0,
					callback: (value) =>
						drawn().end < 20 * 60 || Number(value) === 0
							? clockTime(at(Number(value)), drawn().zone)
							: `+${stretchWords(Number(value))}`
				}
			},
			y: {
				min: 0,
				border: { display: false },
				grid: { color: tokenColor('--line') },
				ticks: { font, color: tokenColor('--quiet'), maxTicksLimit: 4, precision: 0 }
			}
		}
	};
}

/** Draws lines over time on a canvas, and anew at each `draw`; ended by `end`. */
export class TimeChart {
	#chart: Chart<'line', LinePoint[]> | null = null;
	#drawn!: OverTime;

	draw(canvas: HTMLCanvasElement, drawn: OverTime): void {
		this.#drawn = drawn;
		this.#chart ??= new Chart<'line', LinePoint[]>(canvas, {
			type: 'line',
			data: { datasets: [] },
			options: optionsOf(() => this.#drawn)
		});
		this.#chart.data.datasets = drawn.lines;
		const { x, y } = this.#chart.options.scales!;
		x!.max = drawn.end;
		y!.max = drawn.all;
		this.#chart.update('none');
	}

	end(): void {
		this.#chart?.destroy();
		this.#chart = null;
	}
}
