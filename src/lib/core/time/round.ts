import { z } from 'zod';
import { dayAfter, placeLocal, type LocalTime, type Placed } from './local';
import { timesOfRule, type RuleText } from './recurrence';

/** What happens to a date of a round that falls on a day without school. */
export const offDayRules = ['send', 'skip', 'before', 'after'] as const;
export const offDaySchema = z.enum(offDayRules);
type OffDayRule = z.infer<typeof offDaySchema>;

export interface RoundPlan {
	readonly first: LocalTime;
	readonly rule: RuleText;
	/** Send all the same, leave the date out, or move to the school day before or after. */
	readonly offDays: OffDayRule;
	/** Dates (ISO) that are left out of it, by the wish of whoever planned it. */
	readonly except?: readonly string[];
}

/** One date of a round. */
export interface RoundDate extends Placed {
	/** The date as the rule has it: its name within the round, also when it is moved. */
	readonly key: LocalTime;
	readonly local: LocalTime;
	/** Why it stands elsewhere than the rule has it, or is left out; null where it is as it should be. */
	readonly note: 'moved' | 'skipped' | null;
}

/** Days a date is moved at most before it is left out: longer than any vacation but the summer's. */
const farthest = 21;

/**
 * The dates of a round in its zone, with those left out among them. Two dates that come to the same
 * day through moving are one: the moved one is left out.
 */
export function roundDates(
	plan: RoundPlan,
	zone: string,
	isSchoolDay: (date: string) => boolean,
	most?: number
): RoundDate[] {
	const except = new Set(plan.except);
	const times = timesOfRule(plan.rule, plan.first, zone, most).filter(
		(t) => !except.has(t.slice(0, 10))
	);
	const own = new Set(times.filter((t) => isSchoolDay(t.slice(0, 10))));
	const used = new Set<LocalTime>();
	return times.map((key): RoundDate => {
		const stay = (local: LocalTime, note: RoundDate['note']) => ({
			key,
			local,
			...placeLocal(local, zone),
			note
		});
		const date = key.slice(0, 10);
		if (plan.offDays === 'send' || isSchoolDay(date)) return stay(key, null);
		if (plan.offDays === 'skip') return stay(key, 'skipped');
		const step = plan.offDays === 'before' ? -1 : 1;
		for (let n = 1; n <= farthest; n += 1) {
			const other = dayAfter(date, step * n);
			if (!isSchoolDay(other)) continue;
			const local = `${other}${key.slice(10)}`;
			if (own.has(local) || used.has(local)) break;
			used.add(local);
			return stay(local, 'moved');
		}
		return stay(key, 'skipped');
	});
}
