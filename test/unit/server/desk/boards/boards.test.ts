import { expect } from 'chai';
import { audienceOf, type Audience } from '../../../../../src/lib/core/audience/audience';
import { usualTiming } from '../../../../../src/lib/core/time/timing';
import { wordingOf } from '../../../../../src/lib/core/copy/words';
import { hashToken } from '../../../../../src/lib/server/access/tokens';
import { setClock } from '../../../../../src/lib/server/clock';
import { readDistrict, writeDistrict } from '../../../../../src/lib/server/db/district';
import { writeSchoolOwn } from '../../../../../src/lib/server/db/school-own';
import { rosterChanged } from '../../../../../src/lib/server/db/roster';
import {
	changeWording,
	pin,
	takeOff,
	wordingOnBoards
} from '../../../../../src/lib/server/desk/boards/change-post';
import {
	familyBoards,
	fileOnOwnBoards
} from '../../../../../src/lib/server/desk/boards/family-boards';
import {
	followedBy,
	linkOfPlace,
	openBoardLink,
	setFollowing,
	setOpenLink
} from '../../../../../src/lib/server/desk/boards/links';
import { onBoards } from '../../../../../src/lib/server/desk/boards/on-boards';
import { fileOnBoards, openBoard } from '../../../../../src/lib/server/desk/boards/open-board';
import { named, type NamedPlace } from '../../../../../src/lib/server/desk/boards/places';
import { readOnBoard } from '../../../../../src/lib/server/desk/boards/read-post';
import { staffBoard, wideBoards } from '../../../../../src/lib/server/desk/boards/staff-board';
import type { BoardView } from '../../../../../src/lib/server/desk/boards/types';
import { nothingOwn } from '../../../../../src/lib/server/desk/district/school-form';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { callBack } from '../../../../../src/lib/server/desk/send/call-back';
import { lastSent } from '../../../../../src/lib/server/desk/places/sent';
import { reportEnded } from '../../../../../src/lib/server/desk/staff/reports';
import { weekView } from '../../../../../src/lib/server/desk/week/week';
import { nextPlanning } from '../../../../../src/lib/server/desk/send/replan';
import { standUp } from '../../../../../src/lib/server/desk/send/stand-up';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { keepFile } from '../../../../../src/lib/server/desk/sheet/files';
import { usualBoard, type Sheet } from '../../../../../src/lib/server/desk/sheet/sheet';
import type { User } from '../../../../../src/lib/server/access/user';
import {
	coordinator,
	farPoint,
	office,
	sheetOf,
	teacher,
	testSchoolWithOffice,
	testStart,
	whyOf,
	type TestSchool
} from '../../database';

const key = Buffer.alloc(32, 7);
const minute = 60_000;
const day = 24 * 60 * minute;
const picks = (
	of: Audience['lines'][number] extends infer L ? (L extends { of: infer S } ? S : never) : never
): Audience => ({
	version: 2,
	lines: [{ verb: 'and', to: [{ kind: 'guardians' }], of, only: [] }],
	byHand: []
});
const reader = { method: 'POST', agent: 'Mozilla/5.0 (Phone)', purpose: '', key: 'someone' };

describe('boards', () => {
	let school: TestSchool;
	let at = testStart;
	beforeEach(async () => {
		at = testStart;
		school = await testSchoolWithOffice();
		await farPoint(school.db);
		await school.db.write((tx) => rosterChanged(tx));
	});
	afterEach(() => school.close());

	const announcement = (over: Partial<Sheet> & { subject?: string; body?: string } = {}) =>
		sheetOf({ kind: 'announcement', audience: audienceOf([100]), ...over });
	async function put(sheet: Sheet, user: User = coordinator): Promise<number> {
		const { tally, checks } = await landing(school.db, user, sheet);
		const sent = await schedule(school.db, key, user, sheet, tally.copies);
		if (!sent.ok) throw new Error(JSON.stringify(checks));
		return sent.dispatchId;
	}
	/** The clock goes on by itself; it is set that much after where it was set last. */
	const later = (ms: number) => setClock(school.db, (at += ms));
	const of = async (personId: number, asked: number | null = null, termId: number | null = null) =>
		(await familyBoards(school.db, personId, '/f/x', { termId, asked })).boards;
	const subjects = (boards: readonly BoardView[]) =>
		boards.flatMap((b) =>
			[...b.pinned, ...b.front, ...b.earlier].map((p) => `${b.key}: ${p.subject}`)
		);
	const place = async (kind: 'school' | 'section' | 'district', id: number): Promise<NamedPlace> =>
		(await named(school.db, [{ kind, id }]))[0]!;
	const openAll = (open: boolean) =>
		school.db.write(async (tx) =>
			writeDistrict(tx, { ...(await readDistrict(tx)), boards: { front: 3, open } })
		);

	it('a family reads those of its students: after the hold, until the end, and nobody else’s', async () => {
		await put(
			announcement({ timing: { ...usualTiming, ends: { kind: 'after', minutes: 24 * 60 } } })
		);
		expect(subjects(await of(10))).to.deep.equal([]);
		await later(6 * minute);
		expect(subjects(await of(10))).to.deep.equal(['section-100: Boats']);
		expect(subjects(await of(12))).to.deep.equal([]);
		expect((await of(12)).map((b) => b.key)).to.deep.equal(['district', 'school-1', 'section-101']);
		await later(day);
		expect(subjects(await of(10))).to.deep.equal([]);
	});

	it('nobody without custody or correspondence reads them, and a message stands on none', async () => {
		await put(announcement());
		await put(sheetOf({ audience: audienceOf([100]) }));
		await later(6 * minute);
		expect(subjects(await of(11))).to.deep.equal(['section-100: Boats']);
		await school.db.run(
			'UPDATE contact SET custody = NULL WHERE person_id = 11 AND student_id = 1'
		);
		await school.db.run(
			'UPDATE contact SET correspondence = 0 WHERE person_id = 11 AND student_id = 2'
		);
		expect(await of(11)).to.deep.equal([]);
	});

	it('says of each reader’s students what the letter says, once where it stands on several', async () => {
		const id = await put(announcement({ subject: 'For {{student}}', body: 'Dear {{first_name}}' }));
		await later(6 * minute);
		const [board] = (await of(10)).filter((b) => b.key === 'section-100');
		expect(board!.front.map((p) => [p.dispatchId, p.subject])).to.deep.equal([
			[id, 'For Ana and Rui']
		]);
		expect(board!.front[0]!.html).to.include('Dear Delfina');
		const wide = await put(
			announcement({
				audience: picks({
					kind: 'any',
					of: [
						{ kind: 'schools', ids: [1] },
						{ kind: 'sections', ids: [100] }
					]
				})
			})
		);
		await later(6 * minute);
		const posts = (await of(10)).flatMap((b) => b.front.map((p) => [b.key, p.dispatchId, p.also]));
		expect(posts).to.deep.equal([
			['school-1', wide, ['Mathematics 7-A']],
			['section-100', id, []]
		]);
	});

	it('pinned ones, the newest in front, the others by their headings until one is asked for; counted by the settings', async () => {
		const ids: number[] = [];
		for (const n of [1, 2, 3, 4, 5]) {
			ids.push(await put(announcement({ subject: `No ${n}` })));
			await later(10 * minute);
		}
		expect(whyOf(await pin(school.db, coordinator, ids[0]!, true))).to.equal('done');
		const board = async (asked: number | null = null) =>
			(await of(10, asked)).find((b) => b.key === 'section-100')!;
		const { pinned, front, earlier } = await board();
		expect(pinned.map((p) => p.subject)).to.deep.equal(['No 1']);
		expect(front.map((p) => p.subject)).to.deep.equal(['No 5', 'No 4', 'No 3']);
		expect(earlier.map((p) => [p.subject, p.html])).to.deep.equal([['No 2', '']]);
		expect((await board(ids[1]!)).earlier[0]!.html).to.include('The boat is late.');
		await school.db.write(async (tx) =>
			writeDistrict(tx, { ...(await readDistrict(tx)), boards: { front: 2, open: false } })
		);
		expect((await board()).front).to.have.length(2);
	});

	it('stands from and until its own times, never before its hold is over, and leaves with a call back', async () => {
		const id = await put(
			announcement({
				timing: { ...usualTiming, when: { kind: 'at', at: '2027-03-12T10:00' } },
				board: { ...usualBoard, from: testStart - day, until: testStart + 2 * day }
			})
		);
		expect(subjects(await of(10))).to.deep.equal([]);
		await later(6 * minute);
		expect(subjects(await of(10))).to.have.length(1);
		expect(whyOf(await callBack(school.db, coordinator, id))).to.equal('done');
		expect(subjects(await of(10))).to.deep.equal([]);
		const again = await put(announcement({ board: { ...usualBoard, until: testStart + day } }));
		await later(6 * minute);
		expect((await onBoards(school.db, coordinator, again))!.until).to.equal(testStart + day);
		await later(day);
		expect(subjects(await of(10))).to.deep.equal([]);
	});

	it('only stands there: no copy, its time wakes the courier, and who reads it is counted once', async () => {
		const sheet = announcement({ ways: [] });
		const { tally, checks, boards } = await landing(school.db, coordinator, sheet);
		expect(tally.copies).to.equal(0);
		expect(boards!.names).to.deep.equal(['Mathematics 7-A']);
		expect(checks.filter((c) => c.level === 'block')).to.deep.equal([]);
		const id = await put(sheet);
		expect(await nextPlanning(school.db)).to.be.within(
			testStart + 5 * minute,
			testStart + 6 * minute
		);
		await standUp(school.db);
		const state = async () =>
			(await school.db.one<{ state: string }>('SELECT state FROM dispatch WHERE id = $id', { id }))!
				.state;
		expect(await state()).to.equal('scheduled');
		await later(6 * minute);
		await standUp(school.db);
		expect(await state()).to.equal('sent');
		const opened = { ok: true, personId: 10, deliveryId: null, dispatchId: null } as const;
		expect(await readOnBoard(school.db, opened, id, reader)).to.equal(true);
		expect(await readOnBoard(school.db, opened, id, reader)).to.equal(true);
		expect(await readOnBoard(school.db, opened, id, { ...reader, agent: 'curl/8' })).to.equal(true);
		expect(await readOnBoard(school.db, { ...opened, personId: 12 }, id, reader)).to.equal(false);
		expect(await onBoards(school.db, coordinator, id)).to.include({
			...{ readers: 1, without: 1, students: 2 }
		});
		// It went to nobody: no report is written of it, and it stands among nothing that is still to be read.
		expect(await reportEnded(school.db, 'https://school.example')).to.equal(0);
		expect((await weekView(school.db, coordinator)).waiting.notCovered).to.deep.equal([]);
		expect(await lastSent(school.db, coordinator, 'student_id = 1', {})).to.deep.equal([]);
	});

	it('read there is evidence for the copy that its reader has', async () => {
		const id = await put(announcement({ ways: ['inbox'] }));
		await later(6 * minute);
		await school.db.run(
			`UPDATE delivery SET state = 'delivered', left_at = $at WHERE dispatch_id = $id`,
			{ id, at: testStart }
		);
		const opened = { ok: true, personId: 10, deliveryId: null, dispatchId: null } as const;
		expect(await readOnBoard(school.db, opened, id, reader)).to.equal(true);
		expect(
			await school.db.all(
				`SELECT event.kind, detail, person_id AS person FROM event JOIN delivery ON delivery.id = delivery_id
				WHERE dispatch_id = $id AND event.kind = 'opened'`,
				{ id }
			)
		).to.deep.equal([{ kind: 'opened', detail: 'stood open on a board', person: 10 }]);
		expect(await onBoards(school.db, coordinator, id)).to.include({ readers: 1, without: 0 });
	});

	it('who does not write to everybody of a place puts nothing on its board', async () => {
		const wide = announcement({ audience: picks({ kind: 'schools', ids: [1] }) });
		expect((await landing(school.db, teacher, wide)).boards).to.deep.equal({
			...{ names: [], notFor: ['not-own'] }
		});
		expect((await landing(school.db, office, wide)).boards!.names).to.deep.equal(['Heron Landing']);
		const all = announcement({ audience: picks({ kind: 'terms', ids: [2] }) });
		expect((await landing(school.db, office, all)).boards!.names).to.deep.equal([]);
		expect((await landing(school.db, coordinator, all)).boards!.names).to.deep.equal([
			'Brackwater Isles'
		]);
		// Their own section is theirs.
		expect((await landing(school.db, teacher, announcement())).boards!.names).to.deep.equal([
			'Mathematics 7-A'
		]);
	});

	it('what stands for a course stands for a section of it that comes later', async () => {
		await put(announcement({ audience: picks({ kind: 'courses', ids: [1], termId: 2 }) }));
		await school.db.run(
			`INSERT INTO section (id, course_id, term_id, name, period) VALUES (102, 1, 2, 'Mathematics 7-B', '')`
		);
		await school.db.run('INSERT INTO enrolment (section_id, student_id) VALUES (102, 3)');
		await later(6 * minute);
		expect(subjects(await of(12))).to.deep.equal(['section-102: Boats']);
	});

	it('is read back by term, when that is over', async () => {
		await put(announcement());
		await later(30 * day);
		expect((await of(10)).map((b) => b.key)).to.deep.equal(['district', 'school-1']);
		const { terms } = await familyBoards(school.db, 10, '/f/x', { termId: null, asked: null });
		expect(terms).to.deep.equal([{ id: 2, name: 'Winter' }]);
		expect(subjects(await of(10, null, 2))).to.deep.equal(['section-100: Boats']);
	});

	describe('changed there', () => {
		let id: number;
		beforeEach(async () => {
			id = await put(announcement(), teacher);
			await later(6 * minute);
		});
		const change = (user: User, words: string, base = 0) =>
			changeWording(school.db, user, id, wordingOf('Boats', words), base);

		it('says so, and what it said before; copies stay as they left', async () => {
			const letters = () => school.db.one('SELECT wording FROM dispatch WHERE id = $id', { id });
			const before = await letters();
			expect(whyOf(await change(teacher, 'The boat is on time.'))).to.equal('done');
			const post = (await of(10)).find((b) => b.key === 'section-100')!.front[0]!;
			expect(post.html).to.include('on time');
			expect(post.changedAt).to.be.within(testStart + 6 * minute, testStart + 7 * minute);
			expect(post.before.map((b) => b.html).join()).to.include('is late');
			expect(await letters()).to.deep.equal(before);
			expect(
				await school.db.all(`SELECT act, thing_id AS id FROM log_line WHERE act LIKE 'board%'`)
			).to.deep.equal([{ act: 'board-changed', id }]);
		});

		it('never over somebody else’s change, by nobody else, and not into nothing', async () => {
			expect(whyOf(await change(office, 'x'))).to.match(/no such announcement of yours/);
			expect(await wordingOnBoards(school.db, office, id)).to.equal(null);
			expect(whyOf(await change(teacher, 'Anew.'))).to.equal('done');
			expect(whyOf(await change(coordinator, 'Over it.'))).to.match(/Somebody else has changed/);
			const { base } = (await wordingOnBoards(school.db, coordinator, id))!;
			expect(whyOf(await change(coordinator, '', base))).to.match(/no wording/);
			expect(whyOf(await change(coordinator, '{{nobody}', base))).to.not.equal('done');
			expect(whyOf(await change(coordinator, 'Over it.', base))).to.equal('done');
		});

		it('is taken off, and stays in the log', async () => {
			expect(whyOf(await takeOff(school.db, office, id))).to.match(/no such/);
			expect(whyOf(await takeOff(school.db, teacher, id))).to.equal('done');
			expect(subjects(await of(10))).to.deep.equal([]);
			expect(
				(await staffBoard(school.db, key, teacher, 'section-100', null))!.board.front
			).to.deep.equal([]);
		});
	});

	describe('for anybody who has the link', () => {
		const board7 = { kind: 'section', id: 100 } as const;
		const tokenOf = async () =>
			(await linkOfPlace(school.db, key, board7))!.path.slice('/b/'.length);

		it('only where the school allows that, by whoever writes there, and until it is ended', async () => {
			const make = (user: User, open = true) => setOpenLink(school.db, key, user, board7, open);
			expect(whyOf(await make(teacher))).to.match(/keeps its boards for its families/);
			await openAll(true);
			expect(whyOf(await make(teacher))).to.equal('done');
			expect(
				whyOf(await setOpenLink(school.db, key, teacher, { kind: 'school', id: 1 }, true))
			).to.match(/not among those/);
			const first = await tokenOf();
			expect(await openBoardLink(school.db, first)).to.deep.include({ ok: true, personId: null });
			expect(
				await school.db.one('SELECT count(*) AS n FROM board_link WHERE token_hash = $h', {
					h: hashToken(first)
				})
			).to.deep.equal({ n: 1 });
			// Its school says otherwise than the district.
			await school.db.write((tx) => writeSchoolOwn(tx, 1, { ...nothingOwn, openBoards: false }));
			expect(await openBoardLink(school.db, first)).to.deep.equal({ ok: false, why: 'ended' });
			await school.db.write((tx) => writeSchoolOwn(tx, 1, { ...nothingOwn, openBoards: true }));
			await openAll(false);
			expect(whyOf(await make(teacher))).to.equal('done');
			const second = await tokenOf();
			expect(await openBoardLink(school.db, first)).to.deep.equal({ ok: false, why: 'ended' });
			expect(whyOf(await make(teacher, false))).to.equal('done');
			expect(await openBoardLink(school.db, second)).to.deep.equal({ ok: false, why: 'ended' });
			expect(await openBoardLink(school.db, 'nothing')).to.deep.equal({
				ok: false,
				why: 'unknown'
			});
		});

		it('without names of people, without who sent it, and without private files', async () => {
			const file = async (name: string) => {
				const kept = await keepFile(
					school.db,
					school.folder,
					coordinator,
					name,
					Buffer.from(`%PDF-1.4 ${name}`),
					'file',
					1e6
				);
				if (!kept.ok) throw new Error(kept.why);
				return kept.file.id;
			};
			const [list, map] = [await file('list.pdf'), await file('map_Ana_Amaro.pdf')];
			const heard = await file('heard.pdf');
			await put(
				announcement({
					subject: 'For {{student}} and Ana Amaro',
					body: 'Dear {{first_name}}, Rui Amaro waits with {{teacher}}.',
					letter: {
						...sheetOf().letter,
						note: { fileId: heard, kind: 'voice', ms: 9_000, words: 'Rui Amaro', picture: null },
						files: [
							{ fileId: list, mode: 'link', private: true },
							{ fileId: map, mode: 'link', private: false }
						]
					}
				})
			);
			await later(6 * minute);
			const section = await place('section', 100);
			const { board } = await openBoard(school.db, section, 'en', '/b/x', null);
			const [post] = board.front;
			expect(post!.subject).to.equal('For your student and A. A.');
			expect(post!.html).to.include('Dear families, R. A. waits with the teacher.');
			expect(post!.sender).to.equal('');
			expect(post!.files.map((f) => f.id)).to.deep.equal([map]);
			for (const name of ['Amaro', 'Okafor', 'Quill', 'Delfina'])
				expect(JSON.stringify(board)).not.to.include(name);
			expect(await fileOnBoards(school.db, [section], list, true)).to.equal(null);
			// A voice names whom it likes.
			expect(post!.files.map((f) => f.id)).to.deep.equal([map]);
			expect(await fileOnBoards(school.db, [section], heard, true)).to.equal(null);
			expect(await fileOnBoards(school.db, [section], heard, false)).to.include({
				name: 'heard.pdf'
			});
			expect(await fileOnBoards(school.db, [section], map, true)).to.include({
				name: 'map A. A..pdf'
			});
			expect(post!.files[0]!.words).to.match(/^map A\. A\.\.pdf \(/);
			// Its families open both.
			expect(await fileOnOwnBoards(school.db, 10, list)).to.include({ name: 'list.pdf' });
			expect(await fileOnOwnBoards(school.db, 12, list)).to.equal(null);
		});

		it('somebody’s own address follows a board while they belong there', async () => {
			expect(await setFollowing(school.db, key, 12, board7, true)).to.equal(false);
			expect(await setFollowing(school.db, key, 10, board7, true)).to.equal(true);
			expect(await setFollowing(school.db, key, 10, board7, true)).to.equal(true);
			const own = await followedBy(school.db, key, 10);
			expect([...own.keys()]).to.deep.equal(['section-100']);
			const token = own.get('section-100')!.slice('/b/'.length);
			expect(await openBoardLink(school.db, token)).to.deep.include({ ok: true, personId: 10 });
			await school.db.run('UPDATE contact SET gone_at = 1 WHERE person_id = 10');
			expect(await openBoardLink(school.db, token)).to.deep.equal({ ok: false, why: 'ended' });
			await school.db.run('UPDATE contact SET gone_at = NULL WHERE person_id = 10');
			expect(await setFollowing(school.db, key, 10, board7, false)).to.equal(true);
			expect(await openBoardLink(school.db, token)).to.deep.equal({ ok: false, why: 'ended' });
		});
	});

	it('staff see what they look after: a teacher their sections’ and the district’s, an office its school’s', async () => {
		const sees = async (user: User) => {
			const keys = [
				'district',
				'school-1',
				'school-2',
				'section-100',
				'section-101',
				'section-200'
			];
			const seen: string[] = [];
			for (const k of keys) if (await staffBoard(school.db, key, user, k, null)) seen.push(k);
			return seen;
		};
		expect(await sees(teacher)).to.deep.equal(['district', 'school-1', 'section-100']);
		expect(await sees(office)).to.deep.equal([
			'district',
			'school-1',
			'section-100',
			'section-101'
		]);
		expect((await sees(coordinator)).length).to.equal(6);
		expect(await staffBoard(school.db, key, coordinator, 'section-9', null)).to.equal(null);
		expect(await staffBoard(school.db, key, coordinator, 'section-x', null)).to.equal(null);
		await put(announcement());
		await put(
			announcement({ timing: { ...usualTiming, when: { kind: 'at', at: '2027-03-12T10:00' } } })
		);
		await later(6 * minute);
		const board = (await staffBoard(school.db, key, teacher, 'section-100', null))!;
		expect(board.coming).to.have.length(1);
		expect(board).to.include({ readers: 2, followers: 0 });
		// It is another’s: seen on the board, not in Reach, and not to be changed.
		expect(board.posts.map((p) => [p.mine, p.seen])).to.deep.equal([[false, false]]);
		expect(
			(await wideBoards(school.db, coordinator)).map((b) => [b.key, b.standing])
		).to.deep.equal([
			['district', 0],
			['school-2', 0],
			['school-1', 0]
		]);
	});
});
