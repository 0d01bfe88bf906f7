import { isPeopleLine, type Audience } from '../../../core/audience/audience';
import { picksOf } from '../../../core/audience/named';
import { lineWords } from '../../../core/audience/sentence';
import { reasonsText } from '../../../core/audience/reasons';
import { providerChecks } from '../../../core/plan/check-providers';
import type { Recipient } from '../../../core/plan/manifest';
import { studentsLeft, whyLeft } from '../../../core/plan/students-left';
import { tallyOf } from '../../../core/plan/tally';
import { timesTally } from '../../../core/plan/times';
import { comingMoments } from '../../../core/time/timing';
import { nameOf, relationPhrase } from '../../../core/roster/relation';
import type { Roster } from '../../../core/roster/roster';
import type { User } from '../../access/user';
import { nameBook } from '../../db/names';
import type { Db } from '../../db/open';
import { boardsOfSheet } from './boards-of-sheet';
import { checkSheet } from './check-sheet';
import { expectLine } from './expect-line';
import { eventOfSheet } from './event-of-sheet';
import { usableFiles } from '../sheet/files';
import { planSheet, type Planned } from './plan-sheet';
import type { Sending, Sheet } from '../sheet/sheet';
import { languageCounts } from './wording-input';
import type { Landing, NamedLines, NamedLine, Door } from './types';
import type { Way, WayOut } from '../../../core/roster/way';
import type { Because } from '../../../core/audience/resolved';

/** As many names as a list behind a number shows; the manifest has them all. */
const mostNames = 500;

/** The people whom an audience and its copies name one by one. */
function namedPeople(audience: Audience, { copies }: Sheet): number[] {
	const inLines = audience.lines.flatMap((line) =>
		isPeopleLine(line) && line.people.kind === 'named' ? line.people.ids : []
	);
	const inPicks = picksOf(audience).flatMap((p) => (p.kind === 'students' ? p.ids : []));
	return [
		...inLines,
		...inPicks,
		...audience.byHand.map((h) => h.personId),
		...copies.toColleagues
	];
}

/** The tally and the standing check of a sheet, as they stand beside the wording; `waysOut` are those for which somebody outside is there. */
export async function landing(
	db: Db,
	user: User,
	sheet: Sheet,
	waysOut: readonly WayOut[] = ['email', 'text']
): Promise<Landing> {
	const planned = await planSheet(db, user, sheet);
	const { spoken } = planned;
	const book = await nameBook(db, spoken);
	const tally = tallyOf(planned.manifest);
	const boards = await boardsOfSheet(db, user, sheet, planned);
	const event = await eventOfSheet(db, user, sheet, planned);
	return {
		tally,
		times: {
			...timesTally(planned.manifest),
			moments: planned.moments,
			coming: comingMoments(planned.moments, planned.now).length,
			moment: planned.moment
		},
		checks: [
			...(await checkSheet(db, user, sheet, planned, { tally, boards, event })),
			...providerChecks(tally.byWay, waysOut)
		],
		expect: await expectLine(db, sheet, planned),
		event: event && { names: event.names },
		boards: boards && { names: boards.names, notFor: boards.on.notFor },
		byLine: planned.manifest.byLine,
		languages: languageCounts(planned.roster, planned.manifest, sheet.wording),
		words: spoken.lines.map((line) => lineWords(line, book)),
		files: await usableFiles(
			db,
			user,
			sheet.letter.files.map((f) => f.fileId)
		),
		names: Object.fromEntries(
			namedPeople(spoken, sheet).map((id) => [id, nameOf(planned.roster, id)])
		)
	};
}

/** The names behind one number of the tally. */
export async function namesBehind(
	db: Db,
	user: User,
	sending: Sending,
	door: Door
): Promise<NamedLines> {
	const planned = await planSheet(db, user, sending);
	const book = await nameBook(db, planned.spoken);
	const lines = namedLines(
		planned,
		planned.spoken.lines.map((line) => lineWords(line, book)),
		door
	);
	return { total: lines.length, lines: lines.slice(0, mostNames).map((line) => line()) };
}

/** What a recipient is to the students they are written to for, or why else they are written to; without a recipient it is a copy for information. */
export function partOf(roster: Roster, recipient: Recipient | undefined): string {
	if (!recipient) return 'copy for information';
	const studentIds = recipient.because.flatMap((b) => b.studentId ?? []);
	return studentIds.length > 0
		? relationPhrase(roster, recipient.personId, studentIds)
		: forThemselves(recipient.because[0]!);
}

/** What stands where somebody is meant for themselves; staff have their role. */
const forThemselves = ({ as, word }: Because): string =>
	(
		({ hand: 'put in by hand', name: 'picked by name', joined: 'joined the group' }) as Record<
			string,
			string
		>
	)[as] ??
	word ??
	'';

/** Each line is only put into words when it is shown. */
function namedLines(
	{ roster, manifest }: Planned,
	words: readonly string[],
	door: Door
): (() => NamedLine)[] {
	const recipients = new Map(manifest.recipients.map((r) => [r.personId, r]));
	const named = (personId: number, note: () => string) => (): NamedLine => ({
		personId,
		name: nameOf(roster, personId),
		relation: partOf(roster, recipients.get(personId)),
		note: note()
	});
	switch (door) {
		case 'leftOut':
		case 'leftOutForSome':
			return manifest.leftOut
				.filter((l) => l.reached === (door === 'leftOutForSome'))
				.map(({ personId, studentIds, reasons }) => () => ({
					personId,
					name: nameOf(roster, personId),
					relation: relationPhrase(roster, personId, studentIds),
					note: reasonsText(reasons, words)
				}));
		case 'unreached':
		case 'alone':
		case 'out':
			return studentsLeft(manifest)
				.filter((s) => s.kind === door)
				.map((left) => () => ({
					personId: left.studentId,
					name: nameOf(roster, left.studentId),
					relation: roster.section(manifest.sectionOf.get(left.studentId) ?? 0)?.name ?? '',
					note: whyLeft(left, (id) => nameOf(roster, id), words)
				}));
		case 'merged':
			return manifest.copies.flatMap((copy) =>
				copy.alsoFor.map((personId) =>
					named(personId, () => {
						const homes = roster.householdsOf(copy.personId);
						const together = roster.householdsOf(personId).some((h) => homes.includes(h));
						return `reads ${copy.address} together with ${nameOf(roster, copy.personId)}, ${together ? 'in one household' : 'in another household'}`;
					})
				)
			);
		case 'byOtherLine':
			return manifest.recipients
				.filter((r) => r.because.some((b) => b.also.length > 0))
				.map((r) =>
					named(r.personId, () => {
						const lines = new Set(r.because.flatMap((b) => [b.line ?? 0, ...b.also]));
						return `lines ${[...lines].map((l) => l + 1).join(' and ')}`;
					})
				);
		case 'informed':
			return manifest.informed.map((id) =>
				named(id, () => manifest.copies.find((c) => c.personId === id)!.address ?? 'inbox')
			);
		case 'people': {
			const waysOf = new Map<number, Set<Way>>();
			for (const { personId, alsoFor, way } of manifest.copies) {
				for (const id of [personId, ...alsoFor]) {
					waysOf.set(id, (waysOf.get(id) ?? new Set()).add(way));
				}
			}
			return manifest.recipients.map(({ personId }) =>
				named(personId, () => [...(waysOf.get(personId) ?? [])].join(', '))
			);
		}
		default:
			return manifest.copies
				.filter((copy) => copy.way === door)
				.map((copy) => named(copy.personId, () => copy.address ?? 'inbox'));
	}
}
