import type { BoardsOf } from '../../../core/audience/boards';
import type { TimedManifest } from '../../../core/plan/times';
import type { HappeningCode } from '../../../core/track/happening-code';
import { rowSet } from '../../db/many';
import { copyToken, hashToken, newNonces } from '../../access/tokens';

/** The rows of a manifest, table by table, as they are handed over. `n` numbers copies, and who is left out, from 0. */
export const planSets = {
	students: rowSet('$rows', ['student_id', 'section_id']),
	takenOut: rowSet('$rows', ['student_id', 'line']),
	leftOut: rowSet('$rows', ['n', 'person_id', 'reasons', 'reached']),
	leftOutStudents: rowSet('$rows', ['n', 'student_id']),
	copies: rowSet('$rows', [
		'n',
		'person_id',
		'way',
		'address',
		'state',
		'due_at',
		'link_hash',
		'step',
		'nonce',
		'in_digest'
	]),
	copyStudents: rowSet('$rows', ['n', 'student_id']),
	copyReaders: rowSet('$rows', ['n', 'person_id']),
	events: rowSet('$rows', ['n', 'detail', 'code']),
	boards: rowSet('$rows', ['kind', 'place_id', 'term_id'])
} as const;

/**
 * A manifest made ready to be written down, each table's rows as one JSON text. Links are made and
 * hashed here, before any transaction: of a whole district that takes a second in which nobody else
 * could write.
 */
export interface PlanRows {
	readonly students: string;
	readonly takenOut: string;
	readonly leftOut: string;
	readonly leftOutStudents: string;
	/** Copies are numbered from 0; their ids are given when they are written down. */
	readonly copies: string;
	readonly copyStudents: string;
	readonly copyReaders: string;
	readonly events: string;
	/** The boards that it stands on; none of what is no announcement. */
	readonly boards: string;
	readonly copyCount: number;
	readonly byWay: Readonly<Record<string, number>>;
	/** When the last copy is due (instant, ms); null where there is none. */
	readonly lastDue: number | null;
}

/** The boards of an audience as rows. */
function boardRows({ district, schools, sections, courses, groups }: BoardsOf) {
	const rows = (kind: string, ids: readonly number[]) =>
		ids.map((place_id) => ({ kind, place_id, term_id: 0 }));
	return [
		...rows('district', district ? [0] : []),
		...rows('school', schools),
		...rows('section', sections),
		...courses.map(({ id, termId }) => ({ kind: 'course', place_id: id, term_id: termId })),
		...rows('group', groups)
	];
}

/** How many copies go by each way. */
export function countByWay(copies: TimedManifest['copies']): Record<string, number> {
	const byWay: Record<string, number> = {};
	for (const { way } of copies) byWay[way] = (byWay[way] ?? 0) + 1;
	return byWay;
}

/** Why a copy does not leave at once, in words. */
function waitingWords({
	digest,
	quiet,
	step,
	held
}: {
	readonly digest: boolean;
	readonly quiet: boolean;
	readonly step: number;
	readonly held: boolean;
}): string {
	if (step > 0) return 'waits for its turn: used only if nothing before it has been read by then';
	if (digest) return 'waits for its reader’s daily digest';
	if (quiet) return 'waits for the end of quiet hours';
	return held ? 'held before leaving' : 'waits for its time';
}

/** Makes the rows of a manifest. `held` says that it waits for the end of its hold; `time` is when it is written down (instant, ms). */
export function planRows(
	key: Buffer,
	manifest: TimedManifest,
	{
		time,
		held,
		boards = null
	}: { readonly time: number; readonly held: boolean; readonly boards?: BoardsOf | null }
): PlanRows {
	const nonces = newNonces(manifest.copies.length);
	const copies = manifest.copies.map((copy, n) => {
		const { personId, way, address, step, studentIds, alsoFor, overWish } = copy;
		const nonce = nonces[n]!;
		const dueAt = manifest.dueAt[n]!;
		const inDigest = manifest.inDigest[n]!;
		const quiet = manifest.quietUntil[n] !== null;
		const waits = waitingWords({ digest: inDigest, quiet, step, held });
		return {
			row: {
				n,
				person_id: personId,
				way,
				address,
				// The hold is over long before the digest.
				state: held && step === 0 && !inDigest ? 'held' : 'planned',
				due_at: dueAt,
				link_hash: way === 'inbox' ? null : hashToken(copyToken(key, nonce)),
				step,
				nonce,
				in_digest: inDigest ? 1 : 0
			},
			event: {
				n,
				detail: overWish
					? `${waits}; urgent: goes though its reader wants none of this kind`
					: dueAt <= time
						? 'due at once'
						: waits,
				code: overWish ? ('over-wish' satisfies HappeningCode) : null
			},
			students: studentIds.map((student_id) => ({ n, student_id })),
			readers: alsoFor.map((person_id) => ({ n, person_id }))
		};
	});
	return {
		students: planSets.students.json(
			manifest.students.map((student_id) => ({
				student_id,
				section_id: manifest.sectionOf.get(student_id) ?? null
			}))
		),
		takenOut: planSets.takenOut.json(
			manifest.takenOut.map((t) => ({
				student_id: t.studentId,
				line: t.by === 'hand' ? null : t.by
			}))
		),
		leftOut: planSets.leftOut.json(
			manifest.leftOut.map((l, n) => ({
				n,
				person_id: l.personId,
				reasons: l.reasons,
				reached: l.reached ? 1 : 0
			}))
		),
		leftOutStudents: planSets.leftOutStudents.json(
			manifest.leftOut.flatMap((l, n) => l.studentIds.map((student_id) => ({ n, student_id })))
		),
		copies: planSets.copies.json(copies.map((c) => c.row)),
		copyStudents: planSets.copyStudents.json(copies.flatMap((c) => c.students)),
		copyReaders: planSets.copyReaders.json(copies.flatMap((c) => c.readers)),
		events: planSets.events.json(copies.map((c) => c.event)),
		boards: planSets.boards.json(boards === null ? [] : boardRows(boards)),
		copyCount: copies.length,
		byWay: countByWay(manifest.copies),
		lastDue: manifest.dueAt.reduce<number | null>((last, at) => Math.max(last ?? at, at), null)
	};
}
