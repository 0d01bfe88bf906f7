/**
 * 10,000 rounds over a year, in a process of its own: `rounds.ts <ours|bare>`. Prints one line of JSON.
 *
 *   ours  dates worked out on the wall clock, days without school skipped or moved, placed in the zone
 *   bare  the recurrence package alone gives the same rules' dates, in no zone
 */
import { performance } from 'node:perf_hooks';
import * as library from 'rrule';
import { isSchoolDay } from '../../src/lib/core/time/school-days';
import { offDayRules, roundDates } from '../../src/lib/core/time/round';
import { draws } from '../unit/random';

// The package is CommonJS under Node.
const { RRule } = (library as unknown as { default: typeof library }).default;
const side = process.argv[2];
const r = draws(10_000);
const days = ['MO', 'TU', 'WE', 'TH', 'FR'];
const rounds = Array.from({ length: 10_000 }, () => ({
	first: `2027-01-0${r.int(4, 8)}T${String(r.int(7, 18)).padStart(2, '0')}:15`,
	rule: r.pick([
		`FREQ=WEEKLY;BYDAY=${r.pick(days)};UNTIL=20271231`,
		`FREQ=WEEKLY;INTERVAL=2;BYDAY=${r.pick(days)};UNTIL=20271231`,
		`FREQ=MONTHLY;BYDAY=1${r.pick(days)};UNTIL=20271231`
	]),
	offDays: r.pick([...offDayRules])
}));
const calendar = {
	weekdays: [1, 2, 3, 4, 5],
	terms: [{ startsOn: '2027-01-01', endsOn: '2028-01-01' }],
	closures: [
		{ schoolId: null, name: 'Spring', startsOn: '2027-04-05', endsOn: '2027-04-10' },
		{ schoolId: null, name: 'Summer', startsOn: '2027-06-20', endsOn: '2027-08-28' }
	]
};
let dates = 0;
const start = performance.now();
for (const round of rounds) {
	dates +=
		side === 'ours'
			? roundDates(round, 'America/New_York', (d) => isSchoolDay(calendar, d)).length
			: new RRule({
					...RRule.parseString(round.rule),
					dtstart: new Date(`${round.first}Z`)
				}).all().length;
}
process.stdout.write(JSON.stringify({ ms: performance.now() - start, dates }));
