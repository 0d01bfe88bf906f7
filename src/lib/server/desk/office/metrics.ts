import { Gauge, Registry, type OpenMetricsContentType } from 'prom-client';
import type { DiskRoom } from '../../disk';
import type { CourierHealth } from './types';

/** What is counted for whoever watches. */
export interface Figures {
	readonly health: CourierHealth;
	readonly disk: DiskRoom | null;
	/** Conversations that wait for an answer, of the whole district. */
	readonly waitingReplies: number;
	/** Work of the web server that nobody waits for. */
	readonly inBackground: number;
	/** Memory of the web server's process, octets. */
	readonly memoryBytes: number;
}

/** Figures as text that a monitoring system reads (OpenMetrics 1.0), with its content type. Only numbers: no address, no name and no word of a letter. */
export async function metricsText({
	health,
	disk,
	waitingReplies,
	inBackground,
	memoryBytes
}: Figures): Promise<{ readonly type: string; readonly text: string }> {
	const registry = new Registry<OpenMetricsContentType>();
	registry.setContentType(Registry.OPENMETRICS_CONTENT_TYPE);
	const gauge = (name: string, help: string, value: number | null) => {
		if (value === null) return;
		new Gauge({ name: `idle_courier_${name}`, help, registers: [registry] }).set(value);
	};
	const byWay = (
		name: string,
		help: string,
		of: (way: CourierHealth['ways'][number]) => number | null
	) => {
		const made = new Gauge({
			...{ name: `idle_courier_${name}`, help, labelNames: ['way'], registers: [registry] }
		});
		for (const way of health.ways) {
			const value = of(way);
			if (value !== null) made.set({ way: way.way }, value);
		}
	};
	const { now, machineNow, beatAt, lock } = health;
	gauge('courier_at_work', 'Whether a courier is in office and beats.', health.atWork ? 1 : 0);
	gauge(
		'courier_silent_seconds',
		'Since the courier last showed that it lives.',
		beatAt === null ? null : Math.max(0, machineNow - beatAt) / 1000
	);
	gauge(
		'courier_trouble',
		'Whether something ails the courier that a person has to look at.',
		health.trouble === '' ? 0 : 1
	);
	gauge(
		'held',
		'Whether nothing leaves until somebody has looked at the database.',
		health.held ? 1 : 0
	);
	gauge(
		'write_lock_held_seconds',
		'The longest that the write lock was held within a day; 0 where never long enough to be felt.',
		(lock.longest?.ms ?? 0) / 1000
	);
	byWay('way_working', 'Whether the provider of a way can be spoken to.', (w) =>
		w.working ? 1 : 0
	);
	byWay('copies_due', 'Copies whose time has come and that have not left.', (w) => w.due);
	byWay('oldest_due_seconds', 'How long the oldest of them has waited.', ({ oldestDueAt }) =>
		oldestDueAt === null ? 0 : Math.max(0, now - oldestDueAt) / 1000
	);
	byWay('copies_put_off', 'Copies that a provider has put off.', (w) => w.putOff);
	byWay('copies_left_in_hour', 'Copies that left within the last hour.', (w) => w.leftInHour);
	byWay('copies_failed_in_day', 'Copies that failed within the last day.', (w) => w.failedInDay);
	gauge(
		'staff_letters_waiting',
		'Letters to the staff that have not left.',
		health.notices.waiting
	);
	gauge('replies_waiting', 'Conversations that wait for an answer.', waitingReplies);
	gauge(
		'returned_strangers',
		'Mail that came to no address of ours since the courier began.',
		health.strangers
	);
	gauge(
		'disk_free_bytes',
		'Room on the disk of the data folder.',
		disk === null ? null : disk.freeMegabytes * 1e6
	);
	gauge(
		'web_work_in_background',
		'Work that goes on after whoever began it was answered: working out again, rosters, packing up.',
		inBackground
	);
	gauge('web_resident_memory_bytes', 'Memory of the web server.', memoryBytes);
	return { type: registry.contentType, text: await registry.metrics() };
}
