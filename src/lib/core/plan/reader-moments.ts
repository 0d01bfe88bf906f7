import type { Roster } from '../roster/roster';
import { nextDigest, type DigestMinute } from '../time/digest';
import { nextAllowed, type QuietRules } from '../time/quiet';
import type { PlannedCopy } from './manifest';
import { readerRules, type QuietBook } from './reader-rules';

/** When one copy may leave. */
export interface ReaderMoment {
	/** Instant, ms. */
	readonly at: number;
	/** Whether it waits there for its reader's daily digest. */
	readonly digest: boolean;
}

/**
 * When a copy that would leave at `wanted` (instants, ms) may leave by its reader's own clock: out of quiet hours and
 * days, and then with their daily digest where they have one. What would be of no use there any more (`until`: it ends,
 * its event begins, its next turn comes) does not wait for the digest. Null where no moment is allowed.
 */
export function readerMoment(
	wanted: number,
	rules: QuietRules,
	digest: DigestMinute | null,
	until: number | null
): ReaderMoment | null {
	const at = nextAllowed(wanted, rules);
	if (at === null) return null;
	const together = digest === null ? null : nextDigest(at, digest, rules);
	return together === null || (until !== null && together >= until)
		? { at, digest: false }
		: { at: together, digest: true };
}

/** Letters come in a digest; a text is a call for attention, and the inbox makes no noise. What several read at one address waits where all of them want it to. */
function digestOf(roster: Roster, { way, personId, alsoFor }: PlannedCopy): DigestMinute | null {
	if (way !== 'email') return null;
	const own = roster.ownTime(personId)?.digest ?? null;
	return alsoFor.some((id) => (roster.ownTime(id)?.digest ?? null) === null) ? null : own;
}

/** When each copy may leave that would leave at an instant and is of use until another. Moments are looked up once for each set of rules: copies are many, rules few. */
export function readerMoments(
	roster: Roster,
	book: QuietBook
): (copy: PlannedCopy) => (wanted: number, until: number | null) => ReaderMoment | null {
	const rules = new Map<
		string,
		{
			rules: QuietRules;
			digest: DigestMinute | null;
			found: Map<string, ReaderMoment | null>;
		}
	>();
	return (copy) => {
		const own = roster.ownTime(copy.personId);
		const schools = new Set<number>();
		for (const id of copy.studentIds) {
			const school = roster.person(id)?.schoolId;
			if (school !== null && school !== undefined) schools.add(school);
		}
		const schoolIds = [...schools].sort((a, b) => a - b);
		const quiet = own?.quiet;
		const digest = digestOf(roster, copy);
		const key = `${own?.zone ?? ''}|${quiet ? `${quiet.fromMinute}-${quiet.toMinute}` : ''}|${digest ?? ''}|${copy.way}|${schoolIds.join()}`;
		let entry = rules.get(key);
		if (!entry) {
			const days = new Map<string, boolean>();
			const plain = readerRules(book, {
				...{ way: copy.way, schoolIds, zone: own?.zone ?? null },
				...{ quietFrom: quiet?.fromMinute ?? null, quietTo: quiet?.toMinute ?? null }
			});
			const closed = (date: string) => {
				const known = days.get(date) ?? plain.closed(date);
				days.set(date, known);
				return known;
			};
			entry = { digest, found: new Map(), rules: { ...plain, closed } };
			rules.set(key, entry);
		}
		const { found, ...by } = entry;
		return (wanted, until) => {
			const asked = by.digest === null ? `${wanted}` : `${wanted} ${until}`;
			let next = found.get(asked);
			if (next === undefined)
				found.set(asked, (next = readerMoment(wanted, by.rules, by.digest, until)));
			return next;
		};
	};
}
