import { randomUUID } from 'node:crypto';
import { DateTime } from 'luxon';
import { audienceOf, audienceSchema } from '../src/lib/core/audience/audience';
import { wordingOf } from '../src/lib/core/copy/words';
import { makeCourier, type Courier } from '../courier/courier';
import { tallyOf } from '../src/lib/core/plan/tally';
import { type User, userById } from '../src/lib/server/access/user';
import { now, setClock } from '../src/lib/server/clock';
import type { Db } from '../src/lib/server/db/open';
import { callBack } from '../src/lib/server/desk/send/call-back';
import { judgeForecasts } from '../src/lib/server/desk/expect/judge-forecasts';
import { keepForecasts } from '../src/lib/server/desk/expect/keep-forecasts';
import { learnReading } from '../src/lib/server/desk/expect/learn';
import { planSheet } from '../src/lib/server/desk/plan/plan-sheet';
import { schedule } from '../src/lib/server/desk/send/schedule';
import { sheetWith, usualBoard } from '../src/lib/server/desk/sheet/sheet';
import type { Settings } from '../src/lib/server/settings';
import { askingOf } from './invited';
import { letters } from './letters';
import { nearProviders } from './near-providers';
import type { District } from './district';
import { planVisits, read, type Visit } from './visits';
import { past, type PastDispatch } from './wordings';
import { waits } from '../src/lib/server/db/copy-state';
import type { SignInRow } from '../src/lib/server/db/models/access';
import type { SectionRow } from '../src/lib/server/db/models/roster';

/** So many days before the demo begins its letters lie with the stand-ins. */
const reallySentDays = 7;

interface Plan {
	readonly weeks: number;
	/** The instant at which the demo begins. */
	readonly until: number;
	readonly zone: string;
	readonly seed: string;
	readonly faults: District['faults'];
	readonly say: (line: string) => void;
}

/**
 * Makes the past by sending it: each dispatch is planned by the same desk, leaves by the same
 * courier (that of the last days over SMTP and SMPP to the stand-ins), and is read by the same habits as the
 * readers', with the bench clock moved along.
 */
export async function makeHistory(
	db: Db,
	settings: Settings,
	key: Buffer,
	plan: Plan
): Promise<void> {
	const near = nearProviders(plan.faults);
	const nearCourier = makeCourier(db, settings, key, {
		mail: () => near.mail,
		text: () => near.text
	});
	/** Whose turn it is: what is of the last days leaves over SMTP and SMPP. */
	let courier = nearCourier;
	const sentFrom = plan.until - reallySentDays * 86_400_000;
	const first = DateTime.fromMillis(plan.until, { zone: plan.zone })
		.startOf('week')
		.minus({ weeks: plan.weeks });
	const dispatches = [...past, ...letters]
		.map((d) => ({ ...d, at: momentOf(d, plan) }))
		.filter((d) => d.at >= first.toMillis() && d.at < plan.until)
		.sort((a, b) => a.at - b.at);
	await setClock(db, first.toMillis());
	await nearCourier.beat();
	let visits: Visit[] = [];
	let copies = 0;
	let learnedAt = 0;
	for (const [i, d] of dispatches.entries()) {
		visits = await read(db, visits, d.at);
		await setClock(db, d.at);
		if (courier === nearCourier && d.at >= sentFrom) {
			await nearCourier.close();
			courier = makeCourier(db, settings, key);
			await courier.beat();
			await courier.open();
		}
		const id = await send(db, key, d, plan.zone);
		if (d.calledBack) {
			await setClock(db, d.at + 60_000);
			const user = await userNamed(db, d.by);
			const result = await callBack(db, user, id);
			if (!result.ok) throw new Error(`history: ${result.why}`);
			continue;
		}
		// A second past the end of the hold: the clock has run on a little while it was planned.
		const leaves = d.at + 5 * 60_000 + 1_000;
		// What is still on hold when the demo begins leaves under the eyes of whoever runs it.
		if (leaves >= plan.until) continue;
		await setClock(db, leaves);
		await courier.beat();
		await courier.round();
		// What a night does in the courier: so often that what is said of each could have been said then.
		if (leaves - learnedAt > 6 * 86_400_000) {
			learnedAt = leaves;
			await judgeAll(db);
			await learnReading(db);
		}
		await keepForecasts(db);
		await restOf(db, id, courier);
		if (courier === nearCourier) await near.tell(db, key);
		else await settle(settings);
		const sent = await planVisits(db, plan.seed, id, leaves);
		copies += sent.copies;
		visits.push(...sent.visits);
		plan.say(`${i + 1} of ${dispatches.length}: ${d.subject} (${sent.copies} copies)`);
	}
	await read(db, visits, plan.until);
	await courier.close();
	if (plan.weeks > 0) {
		await judgeAll(db);
		await learnReading(db);
	}
	plan.say(`${dispatches.length} dispatches, ${copies} copies in ${plan.weeks} weeks`);
}

async function judgeAll(db: Db): Promise<void> {
	while ((await judgeForecasts(db)) > 0);
}

/** Lets what quiet hours and the pace hold back leave at its own time. */
export async function restOf(db: Db, dispatchId: number, courier: Courier): Promise<void> {
	for (;;) {
		const next = await db.one<{ at: number | null }>(
			`SELECT min(due_at) AS at FROM delivery WHERE dispatch_id = $id AND ${waits} AND attempts = 0`,
			{ id: dispatchId }
		);
		if (next!.at === null) return;
		await setClock(db, Math.max(await now(db), next!.at) + 1_000);
		await courier.beat();
		await courier.round();
	}
}

function momentOf(d: PastDispatch, plan: Plan): number {
	const [hour, minute] = d.time.split(':').map(Number) as [number, number];
	return DateTime.fromMillis(plan.until, { zone: plan.zone })
		.startOf('week')
		.minus({ weeks: d.weeksAgo })
		.plus({ days: d.weekday - 1 })
		.set({ hour, minute })
		.toMillis();
}

export async function userNamed(db: Db, userName: string): Promise<User> {
	const row = await db.one<{ id: SignInRow['personId'] }>(
		'SELECT person_id AS id FROM sign_in WHERE user_name = $userName',
		{ userName }
	);
	return (await userById(db, row!.id))!;
}

async function send(db: Db, key: Buffer, d: PastDispatch, zone: string): Promise<number> {
	const user = await userNamed(db, d.by);
	const sectionIds = (
		await db.all<Pick<SectionRow, 'id'>>(
			`SELECT section.id FROM section JOIN course ON course.id = course_id
			WHERE term_id = 2 AND school_id <= 3 AND section.name IN (SELECT value FROM json_each($names))`,
			{ names: JSON.stringify(d.sections) }
		)
	).map((s) => s.id);
	const audience = audienceSchema.parse(
		d.wide
			? {
					version: 2,
					lines: [{ verb: 'and', to: d.to.map((kind) => ({ kind })), of: d.wide, only: [] }],
					byHand: []
				}
			: audienceOf(sectionIds, d.to)
	);
	const sheet = sheetWith({
		sheetKey: randomUUID(),
		audience,
		ways: [...d.ways],
		wording: wordingOf(d.subject, d.body),
		...(d.asks && { invitation: askingOf(d.asks, await now(db), zone) }),
		...(d.stands && {
			kind: 'announcement',
			board: {
				...usualBoard,
				pinned: d.stands.pinned ?? false,
				until: d.stands.days === undefined ? null : (await now(db)) + d.stands.days * 86_400_000
			}
		})
	});
	const copies = tallyOf((await planSheet(db, user, sheet)).manifest).copies;
	const result = await schedule(db, key, user, sheet, copies);
	if (!result.ok)
		throw new Error(`history: ${d.subject}: ${result.checks.map((c) => c.text).join(' ')}`);
	return result.dispatchId;
}

/** Waits until the stand-ins have no receipt or notification left to hand over. */
async function settle(settings: Settings): Promise<void> {
	const left = async (url: string, name: 'outgoing' | 'receipts') =>
		((await (await fetch(`${url}/health`)).json()) as Record<string, number>)[name]!;
	for (let n = 1; n > 0;) {
		await new Promise((r) => setTimeout(r, 30));
		n =
			(await left(settings.mailhouseUrl, 'outgoing')) +
			(await left(settings.exchangeUrl, 'receipts'));
	}
}
