import type { SheetEvent } from '../time/sheet-event';
import type { Timing } from '../time/timing';
import { block, caution, someNames, type Check } from './check';

/** What is looked at of an event that a sheet puts into the calendar. */
export interface EventInput {
	readonly event: SheetEvent;
	readonly when: Timing['when']['kind'];
	/** The title it will have; empty where there is neither one nor a subject. */
	readonly title: string;
	/** Names of those in whose calendars it will stand. */
	readonly names: readonly string[];
	/** Whether something of the audience has no calendar of its own. */
	readonly notAll: boolean;
	/** Whether somebody is picked at all. */
	readonly picked: boolean;
	/** When it begins, and when the sheet leaves (instants, ms). */
	readonly startsAt: number;
	readonly leavesAt: number;
}

/** What the standing check says of an event that is put into the calendar with a sheet. */
export function eventChecks(input: EventInput): Check[] {
	const { event, when, title, names, notAll, picked, startsAt, leavesAt } = input;
	if (event === null) return [];
	if (when !== 'now' && when !== 'at')
		return [
			block(
				'event',
				'An event is put into the calendar once: let the sheet leave now, or at a time.'
			)
		];
	const checks: Check[] = [];
	if (event.endsLocal < event.startsLocal)
		checks.push(block('event', 'The event ends before it begins. Give it a later end.'));
	if (title === '')
		checks.push(block('event', 'The event has no title, and the sheet no subject.'));
	if (picked && names.length === 0)
		checks.push(
			block(
				'event',
				'It would stand in nobody’s calendar: no whole section, course or school of yours is picked. Pick one, or take the event out.'
			)
		);
	if (startsAt <= leavesAt)
		checks.push(caution('event', 'The event begins before the sheet leaves.'));
	if (checks.length > 0 || names.length === 0) return checks;
	const stands = `Stands in the calendar of ${someNames(names)} from when it leaves`;
	return [
		notAll
			? caution('event', `${stands}, and not of all whom it is meant for.`)
			: { level: 'fine', where: 'event', text: `${stands}.` }
	];
}
