import { turnsWords } from '../../../core/plan/turns';
import { wantedBy } from '../../../core/plan/wanted';
import { ways as allWays, type WayOut } from '../../../core/roster/way';
import { curveTimes } from '../../../core/track/expect/curve-times';
import { expectedCovered, forecast } from '../../../core/track/expect/forecast';
import type { User } from '../../access/user';
import { readDistrict } from '../../db/district';
import type { Db } from '../../db/open';
import { expecting } from '../expect/expecting';
import { habitsKept } from '../expect/model';
import type { ComparedWays, CurvePoint, WhatToExpect } from '../expect/types';
import type { Sheet } from '../sheet/sheet';
import { cheapestEnough, compareWays, reachingMost, worthChoosing } from './compare-ways';
import { hardlyReached } from './hardly-reached';
import { measureTexts } from './measure-texts';
import { planSheet } from './plan-sheet';
import { tryWays, type Comparing, type Tried } from './try-ways';

/** At most so many choices are shown; the sheet’s own and the cheapest that is enough always are. */
const mostShown = 7;

/** How a choice is shown, with its band. */
function shown(
	tried: Tried,
	{ by, partCents }: { readonly by: number; readonly partCents: number },
	marks: Pick<ComparedWays, 'own' | 'cheapest'>
): ComparedWays {
	const { ways, turns, ready, effort, planned } = tried;
	const { low, high, expected, calls } = forecast(ready.model, ready.families, {
		...{ by, bonds: ready.bonds }
	})!;
	return {
		...{ ways, turns, low, high, ...marks },
		expected: Math.round(expected),
		calls: Math.round(calls),
		words: turnsWords(ways, turns, planned.times.style),
		copies: Math.round(effort.copies),
		planned: planned.manifest.copies.length,
		cents: effort.parts * partCents,
		load: Math.round(effort.load)
	};
}

/** How reading is to be expected to grow by a choice, from when it leaves. */
function curveOf({ ready, planned }: Tried, by: number): CurvePoint[] {
	const { model, families, bonds } = ready;
	const from = planned.manifest.leavesAt;
	return curveTimes(from, by, ready.copies).map((at) => {
		const { expected, low, high } = forecast(model, families, { by: at, bonds })!;
		return { at, expected, low, high };
	});
}

/** What is to be expected of a sheet by its own ways and by others for which somebody outside is there (`waysOut`), by the time that is wanted. */
export async function whatToExpect(
	db: Db,
	{ publicUrl, waysOut }: { readonly publicUrl: string; readonly waysOut: readonly WayOut[] },
	user: User,
	sheet: Sheet
): Promise<WhatToExpect> {
	const planned = await planSheet(db, user, sheet);
	const { manifest, zone, times, roster, now } = planned;
	const by = wantedBy(sheet.wanted, manifest.leavesAt, zone);
	const base = { by, zone, now, leavesAt: manifest.leavesAt, share: sheet.wanted.share } as const;
	if (manifest.copies.length === 0) return { ...base, is: 'nobody' };
	const ready = await expecting(db, { manifest, roster, clocks: times.clocks }, sheet.cover);
	if ('unknown' in ready) return { ...base, is: 'unknown', ways: ready.unknown };
	const comparing: Comparing = {
		...{ db, user, sheet, by },
		usable: allWays.filter((w) => w === 'inbox' || waysOut.includes(w)),
		measure: await measureTexts(db, publicUrl, user, sheet, planned),
		parts: new Map()
	};
	const own = await tryWays(comparing, sheet);
	if (!own) return { ...base, is: 'unknown', ways: [] };
	const enoughOf = (students: number) => (sheet.wanted.share / 100) * students;
	const enough = enoughOf(ready.students.length);
	const all = await compareWays(comparing, own, enoughOf);
	const cheapest = cheapestEnough(all, enough);
	const must = [...new Set([own, ...(cheapest ? [cheapest] : []), reachingMost(all)])];
	const rest = worthChoosing(all)
		.filter((t) => !must.includes(t))
		.sort((a, b) => b.expected - a.expected)
		.slice(0, mostShown - must.length);
	const { textPartCents } = await readDistrict(db);
	const looked = cheapest ?? own;
	const eachOne = await habitsKept(db, ready.learned);
	const last = forecast(looked.ready.model, looked.ready.families, { by, bonds: ready.bonds })!;
	const unreached = expectedCovered(ready.model, ready.families, { by, bonds: ready.bonds })!;
	return {
		...base,
		is: 'known',
		of: manifest.students.length === 0 ? 'people' : 'students',
		students: ready.students.length,
		enough: Math.ceil(enough),
		people: new Set(manifest.copies.map((c) => c.personId)).size,
		ownIsEnough: unreached >= enough,
		learned: { at: ready.learned.at, people: ready.learned.people, copies: ready.learned.copies },
		rows: [...must, ...rest]
			.sort((a, b) => a.expected - b.expected)
			.map((t) =>
				shown(t, { by, partCents: textPartCents }, { own: t === own, cheapest: t === cheapest })
			),
		curve: curveOf(own, by),
		turns: [...new Set(own.ready.copies.filter((c) => c.step > 0).map((c) => c.at))].sort(
			(a, b) => a - b
		),
		other: cheapest && cheapest !== own ? curveOf(cheapest, by) : null,
		hardly: hardlyReached(looked.planned, looked.ready, eachOne, last.chances)
	};
}
