import { expect } from 'chai';
import {
	claim,
	lapse,
	nextDue,
	nextWithoutProvider,
	placeInbox,
	spare
} from '../../../../courier/claim';
import { identity } from '../../../../courier/identity';
import { settleOutcomes, writeOutcomes } from '../../../../courier/outcomes';
import { receiptsCome } from '../../../../courier/text-receipts';
import { openLink } from '../../../../src/lib/server/access/private-link';
import { moveTo } from '../../../../src/lib/server/clock';
import type { Bind, Db, Query } from '../../../../src/lib/server/db/open';
import { roundViews } from '../../../../src/lib/server/desk/calendar/round-view';
import { inboxOf } from '../../../../src/lib/server/desk/family/family';
import { letterHappened } from '../../../../src/lib/server/desk/family/letter-happened';
import { courierHealth } from '../../../../src/lib/server/desk/office/courier-status';
import { personView } from '../../../../src/lib/server/desk/people/person';
import { dispatchReach } from '../../../../src/lib/server/desk/reach/reach';
import { leftOutPage } from '../../../../src/lib/server/desk/reach/left-out-page';
import { takeTexts } from '../../../../src/lib/server/desk/replies/take-texts';
import { replan } from '../../../../src/lib/server/desk/send/replan';
import { schedule } from '../../../../src/lib/server/desk/send/schedule';
import { chainOf } from '../../../../src/lib/server/desk/track/chase-chain';
import { weekView } from '../../../../src/lib/server/desk/week/week';
import { tokenOf } from '../../../named';
import { coordinator, sheetOf, testSchool, type TestSchool } from '../database';

/** Tables that grow with every dispatch or every family: none of them is read whole by what is done all day. */
const growing = new Set([
	'delivery',
	'delivery_also',
	'delivery_student',
	'dispatch_student',
	'event',
	'left_out',
	'left_out_student',
	'taken_out',
	'answer',
	'returned_mail',
	'text_in',
	'notice',
	'family_link',
	'dispatch_file',
	'person',
	'contact',
	'address',
	'enrolment',
	'household_member',
	'group_member'
]);

describe('what is done all day', () => {
	const key = Buffer.alloc(32, 7);
	let school: TestSchool;
	const asked = new Map<string, Bind>();
	let db: Db;

	before(async () => {
		school = await testSchool();
		const noted = <Q extends Query>(query: Q): Q => {
			const note =
				<A extends unknown[], R>(work: (sql: string, bind?: Bind, ...rest: A) => R) =>
				(sql: string, bind: Bind = {}, ...rest: A): R => {
					if (/^\s*(SELECT|WITH|UPDATE|DELETE|INSERT)/.test(sql)) asked.set(sql, bind);
					return work(sql, bind, ...rest);
				};
			return { ...query, all: note(query.all), one: note(query.one), run: note(query.run) };
		};
		db = {
			...noted(school.db),
			write: (work) => school.db.write((tx) => work(noted(tx))),
			writeAtOnce: (stands, deeds) => {
				asked.set(`SELECT ${stands.sql}`, stands.bind);
				for (const { sql, bind } of deeds) asked.set(sql, bind);
				return school.db.writeAtOnce(stands, deeds);
			}
		};
	});
	after(() => school.close());

	/** Tables of {@link growing} that a query reads from end to end, by SQLite's own plan (sqlite.org/eqp.html). */
	async function scannedBy(sql: string, bind: Bind): Promise<string[]> {
		const steps = await school.db.all<{ detail: string }>(`EXPLAIN QUERY PLAN ${sql}`, bind);
		const names = new Map<string, string>();
		for (const [, table, alias] of sql.matchAll(/\b(\w+) AS (\w+)\b/g)) names.set(alias!, table!);
		return steps.flatMap(({ detail }) => {
			// By a partial index a scan reads what the index holds, which is what is asked for.
			const name =
				/^SCAN (\w+)(?! USING (COVERING )?INDEX \w+_(due|failed|failing|unanswered|claimed|waiting|strange))/.exec(
					detail
				)?.[1];
			const table = name === undefined ? undefined : (names.get(name) ?? name);
			return table && growing.has(table) ? `${table}: ${detail}` : [];
		});
	}

	it('reads no table that grows from end to end', async () => {
		const me = identity(db);
		await me.beat();
		const sent = await schedule(db, key, coordinator, sheetOf({ holdMinutes: 0 }), 5);
		const later = await schedule(
			db,
			key,
			coordinator,
			sheetOf({
				timing: {
					when: { kind: 'at', at: '2027-03-12T10:00' },
					ends: null,
					clock: null,
					urgent: false
				}
			}),
			5
		);
		if (!sent.ok || !later.ok) throw new Error('nothing was sent');
		const { dispatchId } = sent;
		await moveTo(school.db, Date.parse('2027-03-09T15:30:00Z'));
		await school.db.run(`UPDATE delivery SET in_digest = 1 WHERE way = 'email'`);
		// Planning reads the roster whole, once: what is asked from here on is the day's work.
		asked.clear();
		await lapse(db, me);
		await spare(db, me);
		await placeInbox(db, me);
		const emails = await claim(db, me, 'email', 10);
		const texts = await claim(db, me, 'text', 10);
		expect([emails.length, texts.length]).to.deep.equal([1, 2]);
		const at = Date.parse('2027-03-09T15:31:00Z');
		await settleOutcomes(
			db,
			emails.map((copy) => ({
				copy,
				outcome: { kind: 'accepted', detail: 'ok', providerRef: 'a' } as const,
				at
			}))
		);
		await db.write((tx) =>
			writeOutcomes(
				tx,
				texts.map((copy) => ({
					copy,
					outcome: { kind: 'refused', detail: 'no', addressFault: 'gone' } as const,
					at
				}))
			)
		);
		await receiptsCome(db, [{ text: 'id:a stat:DELIVRD err:000' }]);
		await db.write((tx) =>
			takeTexts(tx, [{ from: '+12075550101', to: '12075550100', words: 'STOP' } as never]).catch(
				() => undefined
			)
		);
		await nextDue(db, 'email');
		await nextWithoutProvider(db);
		const link = await openLink(db, await tokenOf(school.db, key, emails[0]!.id));
		if (!link.ok) throw new Error('the link opens nothing');
		await inboxOf(db, link.personId, '/f/x');
		await letterHappened(db, link, dispatchId, 'opened', {
			method: 'POST',
			agent: 'Mozilla/5.0',
			purpose: '',
			key: 'somewhere'
		});
		await dispatchReach(db, coordinator, dispatchId, {
			way: 'all',
			state: 'all',
			section: 0,
			search: '',
			page: 1
		});
		await leftOutPage(db, coordinator, dispatchId, 1);
		await personView(db, coordinator, 10, { way: 'all', state: 'all', mine: false, page: 1 });
		await weekView(db, coordinator);
		await chainOf(db, coordinator, dispatchId);
		await roundViews(db, coordinator, { eventId: 1 });
		await courierHealth(db);
		expect(asked.size).to.be.above(60);
		const faults: string[] = [];
		for (const [sql, bind] of asked) {
			// Everybody's habits, out of a sample of all: counted once in six hours.
			if (sql.includes('(id * 7919)')) continue;
			for (const scan of await scannedBy(sql, bind))
				faults.push(`${scan} in ${sql.replace(/\s+/g, ' ').slice(0, 220)}`);
		}
		expect(faults).to.deep.equal([]);
		await replan(db, key, later.dispatchId);
	});

	it('finds what names a row without reading a table whole, wherever rows of it are taken away', async () => {
		const tables = await school.db.all<{ name: string }>(
			`SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'`
		);
		const bare: string[] = [];
		for (const { name } of tables) {
			const firsts = await school.db.all<{ name: string }>(
				`SELECT (SELECT name FROM pragma_index_info(list.name) ORDER BY seqno LIMIT 1) AS name
				FROM pragma_index_list('${name}') AS list
				UNION SELECT name FROM pragma_table_info('${name}') WHERE pk = 1`
			);
			const keys = await school.db.all<{ column: string; parent: string }>(
				`SELECT "from" AS column, "table" AS parent FROM pragma_foreign_key_list('${name}')`
			);
			for (const { column, parent } of keys) {
				if (!firsts.some((f) => f.name === column)) bare.push(`${name}.${column} → ${parent}`);
			}
		}
		// Who did it, and schools: neither people nor schools are ever taken away.
		expect(bare.sort()).to.deep.equal([
			'closure.school_id → school',
			'school_group.school_id → school'
		]);
	});
});
