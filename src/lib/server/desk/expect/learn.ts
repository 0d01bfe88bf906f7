import { performance } from 'node:perf_hooks';
import { learnBonds } from '../../../core/track/expect/learn-bonds';
import type { PastCopy, Reader } from '../../../core/track/expect/past-copy';
import {
	learnEachOne,
	learnEverybody,
	readingModel as modelFrom,
	type Everybody
} from '../../../core/track/expect/reading-model';
import { ways } from '../../../core/roster/way';
import type { Clocks } from '../../../core/time/clocks';
import { now } from '../../clock';
import { readTimes } from '../../db/calendar';
import { rowSet } from '../../db/many';
import { readingModel, type ReadingModelRow } from '../../db/models/expect';
import type { Db } from '../../db/open';
import { formNow, learnedLast } from './model';
import { pastCopiesOf } from './past-copies';
import { readersOf } from './readers';

/** People whose copies are in memory at a time. */
const atOnce = 2_000;
/** From how many people everybody’s habits are learned, or from how many copies where that is less: drawn by chance, whole homes. */
const sampled = { people: 6_000, copies: 300_000 } as const;
/** So long what was learned is good for, ms of the job’s time. */
const goodForMs = 20 * 3_600_000;
/** So long it is learned in one go, ms; then others have their turn, and it goes on with the next. */
const stepMs = 45_000;

const habitRows = rowSet('$rows', [
	...(['person_id', 'way', 'share', 'middle', 'weight', 'copies', 'read'] as const)
]);

/** Where a home stands in the order in which homes are learned, which says nothing of them. */
type Place = readonly [mixed: number, home: number];
const placeOf = (id: number, { householdId }: Reader): Place => {
	const home = householdId ?? -id;
	return [(Math.abs(home) * 7919) % 10_007, home];
};
const later = (a: Place, b: Place): number => a[0] - b[0] || a[1] - b[1];

/** The people of some homes, and the place of the last of them. */
interface Part {
	readonly people: ReadonlyMap<number, Reader>;
	readonly until: Place;
}

/** People in parts of whole homes, behind a place. */
function partsOf(readers: ReadonlyMap<number, Reader>, after: Place): Part[] {
	const placed = [...readers]
		.map(([id, reader]) => ({ id, reader, at: placeOf(id, reader) }))
		.filter(({ at }) => later(at, after) > 0)
		.sort((a, b) => later(a.at, b.at));
	const parts: { people: Map<number, Reader>; until: Place }[] = [];
	for (const { id, reader, at } of placed) {
		const last = parts.at(-1);
		if (last && (last.people.size < atOnce || later(last.until, at) === 0)) {
			last.people.set(id, reader);
			last.until = at;
		} else parts.push({ people: new Map([[id, reader]]), until: at });
	}
	return parts;
}

/** A learning that is under way. */
interface UnderWay {
	readonly id: number;
	/** When it began (instant, ms): what is learned is as of then. */
	readonly at: number;
	readonly everybody: Everybody;
	readonly after: Place;
	/** People and copies that it has seen. */
	people: number;
	copies: number;
}

const fromTheFirst: Place = [-1, 0];

/** Learns what everybody does, from some homes drawn by chance, and puts that down as a learning that is under way. */
async function begin(
	db: Db,
	readers: ReadonlyMap<number, Reader>,
	clocks: Clocks
): Promise<UnderWay> {
	const at = await now(db);
	const readerOf = (id: number) => readers.get(id)!;
	const seen: PastCopy[] = [];
	let looked = 0;
	for (const { people } of partsOf(readers, fromTheFirst)) {
		if (looked >= sampled.people || seen.length >= sampled.copies) break;
		looked += people.size;
		for (const copy of await pastCopiesOf(db, people, clocks, at)) seen.push(copy);
	}
	const everybody = learnEverybody(seen, readerOf, at);
	const inSample = [...new Set(seen.map((c) => c.personId))];
	const each = learnEachOne(everybody, inSample, seen, readerOf, at);
	const bonds = learnBonds(modelFrom(everybody, each, readerOf), seen, readerOf);
	const id = await db.write((tx) =>
		tx.rows(readingModel).add({
			...{ at, form: formNow, people: 0, copies: 0, done: JSON.stringify(fromTheFirst) },
			everybody: JSON.stringify(everybody),
			bonds: JSON.stringify(bonds)
		})
	);
	return { id, at, everybody, after: fromTheFirst, people: 0, copies: 0 };
}

/** Whether what was learned as of an instant is as good as new. */
const isGood = (at: number, time: number): boolean => Math.abs(time - at) < goodForMs;

/** The learning that is under way; null where none is, or it was left so long ago that it is begun anew. */
async function underWay(db: Db): Promise<UnderWay | null> {
	const row = await db.one<ReadingModelRow>(
		'SELECT * FROM reading_model WHERE form = $form AND done IS NOT NULL ORDER BY id DESC LIMIT 1',
		{ form: formNow }
	);
	if (!row || !isGood(row.at, await now(db))) return null;
	const { id, at, people, copies } = row;
	return {
		...{ id, at, people, copies },
		everybody: JSON.parse(row.everybody) as Everybody,
		after: JSON.parse(row.done!) as Place
	};
}

/** Learns one part of the homes, and notes how far it has come. */
async function learnPart(
	db: Db,
	learning: UnderWay,
	{ people, until }: Part,
	clocks: Clocks
): Promise<void> {
	const { id: modelId, at, everybody } = learning;
	const past = await pastCopiesOf(db, people, clocks, at);
	const each = learnEachOne(everybody, [...people.keys()], past, (id) => people.get(id)!, at);
	const rows = ways.flatMap((way) =>
		[...each[way]].map(([person_id, habit]) => ({ person_id, way, ...habit }))
	);
	learning.people += new Set(past.map((c) => c.personId)).size;
	learning.copies += past.length;
	await db.write(async (tx) => {
		await tx.run(
			`INSERT OR REPLACE INTO habit (person_id, way, model_id, share, middle, weight, copies, read)
			SELECT person_id, way, $modelId, share, middle, weight, copies, read FROM ${habitRows.table}
			WHERE person_id IN (SELECT id FROM person)`,
			{ rows: habitRows.json(rows), modelId }
		);
		await tx
			.rows(readingModel)
			.change(
				{ id: modelId },
				{ done: JSON.stringify(until), people: learning.people, copies: learning.copies }
			);
	});
}

/** Learns for so long (ms), and goes on the next time where it ended; true once it has come to its end: then it is what was learned last. */
async function learnOn(db: Db, ms: number): Promise<boolean> {
	const end = performance.now() + ms;
	const { clocks } = await readTimes(db);
	const readers = await readersOf(db, 'all');
	const learning = (await underWay(db)) ?? (await begin(db, readers, clocks));
	const parts = partsOf(readers, learning.after);
	for (const [i, part] of parts.entries()) {
		// One at least: it comes to its end however slow the machine is.
		if (i > 0 && performance.now() > end) return false;
		await learnPart(db, learning, part, clocks);
	}
	const { id: modelId } = learning;
	await db.write(async (tx) => {
		await tx.run('DELETE FROM habit WHERE model_id != $modelId', { modelId });
		await tx.run('DELETE FROM reading_model WHERE id != $modelId', { modelId });
		await tx.rows(readingModel).change({ id: modelId }, { done: null });
	});
	return true;
}

/** Learns how everybody and each one reads from the copies of the past, and keeps it in place of what was learned before. */
export async function learnReading(db: Db): Promise<void> {
	while (!(await learnOn(db, Infinity)));
}

/** Learns anew where what was learned last is a day old, by the job’s time: as far as it comes in one go of so long (ms). Resolves to 1 once it is learned. */
export async function learnByNight(db: Db, ms = stepMs): Promise<number> {
	const last = await learnedLast(db);
	if (last && isGood(last.at, await now(db))) return 0;
	return (await learnOn(db, ms)) ? 1 : 0;
}
