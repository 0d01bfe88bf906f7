import { studentsBeyond } from '../../access/allowed';
import { isPeopleLine, pickCount } from '../../../core/audience/audience';
import { listsOf } from '../../../core/audience/named';
import { namesForThemselves } from '../../../core/audience/gained';
import { termsOf } from '../../../core/audience/pairs';
import { meantWords } from '../../../core/audience/sentence';
import { studentsInSeveralTerms } from '../../../core/audience/students';
import { type Check } from '../../../core/plan/check';
import { standingCheck } from '../../../core/plan/standing-check';
import { boardChecks } from '../../../core/plan/check-board';
import { invitationChecks } from '../../../core/plan/check-invitation';
import { eventChecks } from '../../../core/plan/check-event';
import { feedChecks } from '../../../core/plan/check-feed';
import { timingChecks } from '../../../core/plan/check-timing';
import { wordingChecks } from '../../../core/plan/check-wording';
import type { Manifest } from '../../../core/plan/manifest';
import { timesTally } from '../../../core/plan/times';
import { dayName } from '../../../core/time/zone';
import { sectionsWithNobody } from '../../../core/plan/students-left';
import type { Tally } from '../../../core/plan/tally';
import type { Roster } from '../../../core/roster/roster';
import { may, scope } from '../../access/may';
import { feedOf } from '../../../core/time/timing';
import type { User } from '../../access/user';
import type { Query } from '../../db/open';
import { goneWords } from '../audience/facts';
import { heaviestDay } from '../load/load';
import type { Planned } from './plan-sheet';
import type { Sheet } from '../sheet/sheet';
import { askedBy } from '../sheet/asked';
import { feedInput, withNewest } from '../sheet/feed-tried';
import { wordingInput } from './wording-input';
import { boardTimes, type SheetBoards } from './boards-of-sheet';
import type { EventOfSheet } from './event-of-sheet';
import { missingPicks } from '../audience/missing-picks';
import type { TermRow } from '../../db/models/roster';

/** Guardians without custody of a student they are written to for. */
function withoutCustody(roster: Roster, manifest: Manifest): number {
	return manifest.recipients.filter((r) =>
		r.because.some(
			(b) =>
				b.studentId !== null &&
				roster
					.contactsOf(b.studentId)
					.some((c) => c.personId === r.personId && c.guardian && !c.custody)
		)
	).length;
}

/** How the earlier invitation that a sheet is about stands, for whoever writes; null where it is about none. */
async function aboutOf(
	db: Query,
	user: User,
	{ invitation }: Sheet
): Promise<'asks' | 'over' | 'gone' | null> {
	if (invitation?.kind !== 'about') return null;
	const { sql, bind } = scope(user).dispatches;
	const seen = await db.one(`SELECT 1 FROM dispatch WHERE id = $id AND ${sql}`, {
		id: invitation.dispatchId,
		...bind
	});
	const asked = seen ? await askedBy(db, invitation.dispatchId) : null;
	return asked === null || asked.id !== invitation.dispatchId
		? 'gone'
		: asked.open
			? 'asks'
			: 'over';
}

const pickCountOf = ({ lines }: Sheet['audience']) =>
	lines.reduce((sum, l) => sum + pickCount(l), 0);

/** The check of a sheet by a user, over the sheet as it was planned for them, the boards it will stand on and the event it puts into the calendar, as far as that is still to be done. */
export async function checkSheet(
	db: Query,
	user: User,
	sheet: Sheet,
	planned: Planned,
	{
		tally,
		boards,
		event
	}: {
		readonly tally: Tally;
		readonly boards: SheetBoards | null;
		readonly event: EventOfSheet | null;
	}
): Promise<Check[]> {
	const { roster, manifest, spoken, gone, peopleCut, studentsCut, kept, times } = planned;
	const { audience } = sheet;
	const added = audience.lines.flatMap((l) => (l.verb === 'and' && !isPeopleLine(l) ? [l] : []));
	const termIds = new Set(added.flatMap((l) => [...termsOf(roster, l.of)]));
	const names = await db.all<Pick<TermRow, 'name'>>(
		'SELECT name FROM term WHERE id IN (SELECT value FROM json_each($ids)) ORDER BY starts_on',
		{ ids: JSON.stringify([...termIds]) }
	);
	const kinds = new Set(added.flatMap((l) => l.to.map((t) => t.kind)));
	const explicit = (['all-guardians', 'emergency', 'other-contacts'] as const).filter((k) =>
		kinds.has(k)
	);
	// The days that count are those on which its copies are due, not the one on which it leaves.
	const heavy = await heaviestDay(db, manifest, times.loadLimit, times.zone);
	const staff = new Set(roster.staffRoles().map((s) => s.personId));
	return standingCheck({
		pickCount: pickCountOf(audience),
		byHandIn: audience.byHand.filter((h) => h.way === 'in').length,
		mayAddByHand: may(user, 'speak-for-district'),
		maySend: may(user, 'schedule'),
		notToSend: await studentsBeyond(db, user, 'schedule', manifest.students),
		forbidden: planned.sectionsRefused,
		forbiddenStudents: studentsCut,
		keptToOwn: kept,
		forbiddenPeople: peopleCut,
		missing: await missingPicks(db, spoken, roster),
		gone: gone.map(goneWords),
		notStaff: sheet.copies.toColleagues.filter((id) => !staff.has(id)).length,
		terms: {
			names: names.map((n) => n.name),
			studentsInSeveral: studentsInSeveralTerms(
				roster,
				added.map((l) => l.of),
				termIds
			)
		},
		explicit: explicit.map((kind) => meantWords[kind]),
		withoutCustody:
			explicit.length > 0 || listsOf(audience).length > 0 ? withoutCustody(roster, manifest) : 0,
		sectionsWithNobody: sectionsWithNobody(manifest).flatMap(
			(id) => roster.section(id)?.name ?? []
		),
		heavyDay: {
			messages: times.loadLimit,
			people: heavy?.people ?? 0,
			day: heavy ? dayName(heavy.at, times.zone, planned.now) : ''
		},
		wayCount: sheet.ways.length,
		boardCount: boards?.names.length ?? 0,
		board: boardChecks({
			names: boards?.names ?? null,
			notFor: boards?.on.notFor ?? [],
			standsOnly: sheet.ways.length === 0,
			picked: pickCountOf(audience) > 0,
			...boardTimes(sheet.board, planned.moment),
			now: planned.now
		}),
		invitation: invitationChecks({
			invitation: sheet.invitation,
			about: await aboutOf(db, user, sheet),
			when: sheet.timing.when.kind,
			feed: feedOf(sheet.timing) !== null,
			standsOnly: sheet.ways.length === 0,
			people: tally.people,
			leavesAt: planned.moment.at,
			...{ now: planned.now, zone: planned.zone, style: times.style }
		}),
		event:
			event === null
				? []
				: eventChecks({
						...{ event: sheet.event, when: sheet.timing.when.kind },
						...{ title: event.title, names: event.names, notAll: event.notAll },
						picked: pickCountOf(audience) > 0,
						...{ startsAt: event.startsAt, leavesAt: planned.moment.at }
					}),
		feed: feedChecks(await feedInput(db, sheet)),
		wording: wordingChecks(
			await wordingInput(db, user, await withNewest(db, sheet, planned.zone), planned, tally)
		),
		timing: timingChecks({
			timing: sheet.timing,
			moments: planned.moments,
			now: planned.now,
			zone: planned.zone,
			style: times.style,
			holdMinutes: sheet.holdMinutes,
			mayUrgent: may(user, 'send-urgently'),
			notUrgently: sheet.timing.urgent
				? await studentsBeyond(db, user, 'urgent', manifest.students)
				: 0,
			event: planned.event && {
				title: planned.event.title,
				calledOff: planned.event.calledOff
			},
			times: timesTally(manifest),
			copies: tally.copies,
			overWish: tally.overWish,
			forThemselves: namesForThemselves(audience),
			pastEnd: manifest.leftOut.filter((l) => l.reasons.some((r) => r.code === 'past-end')).length
		}),
		tally
	});
}
