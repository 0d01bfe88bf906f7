import {
	Chart,
	Filler,
	LinearScale,
	LineController,
	LineElement,
	PointElement,
	Tooltip,
	type ChartOptions
} from 'chart.js';
import { tokenColor, type Line, type LinePoint } from './chart-lines';
import { clockTime } from './clock';
import { stretchWords } from '$lib/core/time/stretch';

Chart.register(LineController, LineElement, PointElement, LinearScale, Tooltip, Filler);

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
