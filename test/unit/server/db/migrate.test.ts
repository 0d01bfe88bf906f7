import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { userWith } from '../../../../src/lib/server/access/rights';
import { userById } from '../../../../src/lib/server/access/user';
import { writeSetting } from '../../../../src/lib/server/db/district';
import { migrate } from '../../../../src/lib/server/db/migrate';
import * as ground from '../../../../src/lib/server/db/migrations/001-ground';
import * as audiences from '../../../../src/lib/server/db/migrations/002-audiences';
import * as wording from '../../../../src/lib/server/db/migrations/003-wording';
import * as time from '../../../../src/lib/server/db/migrations/004-time';
import { jumpTo } from '../../../../src/lib/server/desk/people/jump';
import { personView } from '../../../../src/lib/server/desk/people/person';
import { dispatchReach } from '../../../../src/lib/server/desk/reach/reach';
import { dispatchList, listFilterSchema } from '../../../../src/lib/server/desk/week/dispatch-list';
import { openDatabase, type Db } from '../../../../src/lib/server/db/open';

describe('bringing an older database up to date', () => {
	let folder: string;
	let db: Db;
	before(async () => {
		folder = mkdtempSync(join(tmpdir(), 'idle-courier-'));
		db = await openDatabase(join(folder, 'courier.sqlite'), { durable: false });
		await db.run('CREATE TABLE migration (name TEXT PRIMARY KEY NOT NULL) WITHOUT ROWID');
		await db.write(async (tx) => {
			for (const [name, { up }] of Object.entries({
				'001-ground': ground,
				'002-audiences': audiences,
				'003-wording': wording,
				'004-time': time
			})) {
				for (const statement of up) await tx.run(statement);
				await tx.run('INSERT INTO migration VALUES ($name)', { name });
			}
			for (const statement of [
				`INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox) VALUES (1, 'student', 'Ana', 'Amaro', 'pt', NULL, '7', 0), (10, 'adult', 'Delfina', 'Amaro', 'pt', NULL, NULL, 1)`,
				`INSERT INTO school VALUES (1, 'Heron Landing', 'Heron')`,
				`INSERT INTO sign_in VALUES (10, 'delfina', 'x', 'office', 1, 'Front desk')`,
				`INSERT INTO dispatch (id, sheet_key, subject, body, audience, audience_words, ways, hold_minutes, sender_id, state, changed_at)
					VALUES (5, 'k', 'Boats', '', '{}', '', '["email","inbox"]', 5, 10, 'sent', 0)`,
				`INSERT INTO delivery (id, dispatch_id, person_id, way, address, state, state_at, due_at, link_hash, provider_ref)
					VALUES (7, 5, 10, 'email', 'home@harbormail.example', 'read', 90, 10, 'hash', 'ref'), (8, 5, 10, 'inbox', NULL, 'delivered', 20, 10, NULL, NULL)`,
				`INSERT INTO delivery_student VALUES (7, 1), (8, 1)`,
				`INSERT INTO event (delivery_id, at, kind, detail) VALUES (7, 20, 'accepted', 'a'), (7, 60, 'link-followed', 'b'),
					(7, 90, 'opened', 'c'), (8, 20, 'delivered', 'd')`
			]) {
				await tx.run(statement);
			}
		});
		await migrate(db);
	});
	after(async () => {
		await db.close();
		rmSync(folder, { recursive: true, force: true });
	});

	it('loses no copy, no evidence and no link to a student, and says what was known in the new columns', async () => {
		expect(
			await db.all(
				`SELECT id, state, state_at AS since, link_hash AS hash, provider_ref AS ref, step, strength, left_at AS leftAt, read_at AS readAt
				FROM delivery ORDER BY id`
			)
		).to.deep.equal([
			{
				id: 7,
				state: 'read',
				since: 90,
				hash: 'hash',
				ref: 'ref',
				step: 0,
				strength: 'strong',
				leftAt: 20,
				readAt: 60
			},
			{
				id: 8,
				state: 'delivered',
				since: 20,
				hash: null,
				ref: null,
				step: 0,
				strength: 'none',
				leftAt: 20,
				readAt: null
			}
		]);
		expect(
			(
				await db.all<{ kind: string; strength: string }>(
					'SELECT kind, strength FROM event ORDER BY id'
				)
			).map((e) => `${e.kind} ${e.strength}`)
		).to.deep.equal(['accepted none', 'link-followed fair', 'opened strong', 'delivered none']);
		expect(await db.all('SELECT * FROM delivery_student')).to.have.length(2);
	});

	it('keeps who may sign in as a role from the beginning, and finds by words what was there before', async () => {
		expect(await userById(db, 10)).to.deep.equal({
			personId: 10,
			name: 'Delfina Amaro',
			title: 'Front desk',
			roles: [{ role: 'office', schoolId: 1, sectionId: null }],
			rights: userWith({ personId: 10, name: '', title: '' }, [
				{ role: 'office', schoolId: 1, sectionId: null }
			]).rights
		});
		const of = async (index: string, word: string) =>
			(
				await db.all<{ id: number }>(
					`SELECT rowid AS id FROM ${index} WHERE ${index} MATCH $word ORDER BY 1`,
					{ word }
				)
			).map((r) => r.id);
		expect(await of('person_words', 'amaro')).to.deep.equal([1, 10]);
		expect(await of('dispatch_words', 'boats')).to.deep.equal([5]);
	});

	describe('parts what was cut out of words, step by step', () => {
		let older: Db;
		let place: string;
		before(async () => {
			place = mkdtempSync(join(tmpdir(), 'idle-courier-'));
			older = await openDatabase(join(place, 'courier.sqlite'), { durable: false });
			await migrate(older, { upTo: '007-truth' });
			for (const statement of [
				`INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox) VALUES (1, 'student', 'Ana', 'Amaro', 'pt', NULL, '7', 0), (10, 'adult', 'Delfina', 'Amaro', 'pt', NULL, NULL, 1)`,
				`INSERT INTO sign_in VALUES (10, 'delfina', 'x', 'coordinator', NULL, 'Front desk')`,
				`INSERT INTO round (id, sheet_key, timing, made_by, made_at) VALUES (3, 'r', '{}', 10, 0)`,
				`INSERT INTO dispatch (id, sheet_key, subject, body, audience, audience_words, ways, hold_minutes, sender_id, state, changed_at, round_id, round_key)
					VALUES (5, 'k', 'Boats', '', '{}', '', '["email"]', 5, 10, 'sent', 0, NULL, NULL),
						(6, 'l', 'Boats', '', '{}', '', '["email"]', 5, 10, 'scheduled', 0, 3, '3 days before start'),
						(7, 'm', 'Boats', '', '{}', '', '["email"]', 5, 10, 'scheduled', 0, 3, '2027-03-09T10:00')`,
				`INSERT INTO delivery (id, dispatch_id, person_id, way, address, state, state_at, due_at)
					VALUES (7, 5, 10, 'email', 'home@harbormail.example', 'failed', 90, 10)`,
				`INSERT INTO left_out (dispatch_id, person_id, student_ids, reasons, reached) VALUES (5, 10, '[1,99]', '[]', 0)`,
				`INSERT INTO event (delivery_id, at, kind, source, detail, strength) VALUES
					(7, 1, 'accepted', 'mail server', 'the mail server took it (250 2.0.0 queued (42))', 'none'),
					(7, 2, 'failed', 'courier', 'given up after 10 tries: the mailbox is full (452 4.2.2 over quota)', 'none'),
					(7, 3, 'stopped', 'by hand', 'stopped by Maren Quill before it left', 'none'),
					(7, 4, 'link-followed', 'link', 'followed the link in this copy: fetched ahead of any click', 'weak'),
					(7, 5, 'link-followed', 'link', 'followed the link in this copy: the same place opened the letters of 7 other people within a minute', 'weak'),
					(7, 6, 'answered', 'answer by mail', 'answered by mail: “see you (maybe)”', 'strong')`
			]) {
				await older.run(statement);
			}
			await migrate(older);
		});
		after(async () => {
			await older.close();
			rmSync(place, { recursive: true, force: true });
		});

		it('and every place reads it: the list, Reach, a person, a family, a search', async () => {
			await writeSetting(older, 'district', {
				name: 'Brackwater Isles',
				zone: 'America/New_York',
				mailFrom: 'letters@brackwater.example',
				textFrom: '12075550100',
				linkDays: 180
			});
			const all = { way: 'all', state: 'all', page: 1 } as const;
			const user = (await userById(older, 10))!;
			expect(user.roles[0]!.role).to.equal('coordinator');
			const list = await dispatchList(older, user, listFilterSchema.parse({ search: 'boats' }));
			expect(list.counts).to.deep.equal({ all: 3, draft: 0, scheduled: 2, sent: 1, ended: 0 });
			const reach = await dispatchReach(older, user, 5, { ...all, section: 0, search: '' });
			expect(reach!.copies.deliveries.map((d) => d.id)).to.deep.equal([7]);
			expect((await personView(older, user, 10, { ...all, mine: false }))!.name).to.equal(
				'Delfina Amaro'
			);
			expect((await jumpTo(older, user, 'ana')).map((j) => j.name)).to.deep.equal(['Ana Amaro']);
		});

		it('an event has its words, what was said, the tries, the sign and the code beside each other', async () => {
			const events = await older.all<object>(
				'SELECT detail, said, tries, sign, code FROM event ORDER BY at'
			);
			const none = { said: null, tries: null, sign: null, code: null };
			const followed = { ...none, detail: 'followed the link in this copy' };
			expect(events).to.deep.equal([
				{ ...none, detail: 'the mail server took it', said: '250 2.0.0 queued (42)' },
				{ ...none, detail: 'the mailbox is full', said: '452 4.2.2 over quota', tries: 10 },
				{ ...none, detail: 'stopped before it left', said: 'Maren Quill', code: 'by-hand' },
				{ ...followed, sign: 'ahead' },
				{ ...followed, sign: 'many-readers' },
				// What a person wrote is left as it is.
				{ ...none, detail: 'answered by mail: “see you (maybe)”' }
			]);
		});

		it('a reminder is named by its offset, a date by itself, and who was left out has the students as rows', async () => {
			expect(
				(
					await older.all<{ key: string | null }>(
						'SELECT round_key AS key FROM dispatch ORDER BY id'
					)
				).map((d) => d.key)
			).to.deep.equal([null, '[3,"days","before","start"]', '2027-03-09T10:00']);
			expect(await older.all('SELECT * FROM left_out_student')).to.deep.equal([
				{ left_out_id: 1, student_id: 1 }
			]);
		});
	});

	it('leaves rows bound to each other: a dispatch takes its copies and their evidence along', async () => {
		await migrate(db);
		await db.run('DELETE FROM dispatch');
		for (const table of ['delivery', 'delivery_student', 'event']) {
			expect(await db.all(`SELECT * FROM ${table}`), table).to.deep.equal([]);
		}
	});
});
