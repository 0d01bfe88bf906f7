import { expect } from 'chai';
import {
	comeIn,
	hasRoom,
	everyTalk,
	listenToTalk,
	whoIsThere
} from '../../../../../src/lib/server/live/talk';
import { followMs } from '../../../../../src/lib/server/desk/replies/live-follow';
import { followLines, nextFollow } from '../../../../../src/lib/server/desk/replies/live-lines';
import { now } from '../../../../../src/lib/server/clock';
import { record } from '../../../../../src/lib/server/desk/track/record';
import type { EventKind } from '../../../../../src/lib/core/track/evidence';
import { answeredSchool, type AnsweredSchool } from './answered-school';

const key = Buffer.alloc(32, 7);

describe('a conversation while both are there', () => {
	let school: AnsweredSchool;
	beforeEach(async () => {
		school = await answeredSchool();
		await school.text('+12075550102', 'When does it end?');
	});
	afterEach(() => school.close());
	const live = async (words: string) =>
		school.answer(await school.talkWith(12), words, { way: 'inbox', atOnce: true, live: true });
	const byWay = () =>
		school.db.all<{ way: string; state: string }>(
			`SELECT delivery.way, delivery.state FROM delivery JOIN dispatch ON dispatch.id = dispatch_id
			WHERE kind = 'answer' ORDER BY delivery.id`
		);
	async function happens(kind: EventKind) {
		const copies = await school.db.all<{ id: number }>(
			`SELECT delivery.id FROM delivery JOIN dispatch ON dispatch.id = dispatch_id WHERE kind = 'answer' AND delivery.way = 'inbox'`
		);
		const at = Math.round(await now(school.db));
		await school.db.write((tx) =>
			record(
				tx,
				copies.map((c) => ({
					...{ deliveryId: c.id, at, kind, source: 'inbox', detail: kind }
				}))
			)
		);
	}

	it('is told to whoever listens, once somebody says something, comes or leaves; of others nothing', async () => {
		const id = await school.talkWith(12);
		const room = `d${school.dispatchId} p12` as const;
		const heard: string[] = [];
		const stops = [
			listenToTalk(school.db, room, () => heard.push('room')),
			listenToTalk(school.db, `c${id + 1}`, () => heard.push('other'))
		];
		const leave = comeIn(room, 'family');
		expect(whoIsThere(room)).to.deep.equal({ family: true, staff: [] });
		const go = comeIn(room, { name: 'Maren Quill' });
		expect(whoIsThere(room).staff).to.deep.equal(['Maren Quill']);
		leave();
		leave();
		go();
		expect(whoIsThere(room)).to.deep.equal({ family: false, staff: [] });
		expect(heard).to.deep.equal(['room', 'room', 'room', 'room']);
		// What came between a page and its line is told once, to each; from then on only what is their own.
		const told = (n: number) =>
			new Promise<void>((resolve) => {
				let left = n;
				stops.push(listenToTalk(school.db, everyTalk, () => (left -= 1) === 0 && resolve()));
			});
		await told(1);
		expect(heard).to.include('other');
		heard.length = 0;
		const said = told(2);
		await school.text('+12075550102', 'Which pier?');
		await said;
		stops.forEach((stop) => stop());
		expect(heard).to.include('room');
		expect(heard).not.to.include('other');
	});

	it('has room for ten pages of a family, and for one more once one is closed', () => {
		const leave = Array.from({ length: 10 }, () => comeIn('d1 p1', 'family'));
		expect([hasRoom('d1 p1'), hasRoom('d1 p2')]).to.deep.equal([false, true]);
		leave[0]!();
		expect(hasRoom('d1 p1')).to.equal(true);
		leave.forEach((one) => one());
	});

	it('the other gone: after two minutes what was not seen goes by their way, as one message, once', async () => {
		await live('At four.');
		await school.pass(60_000);
		await live('At the pier.');
		expect(await followLines(school.db, key)).to.equal(0);
		const due = (await nextFollow(school.db))!;
		expect(due - (await now(school.db))).to.be.within(followMs - 5_000, followMs);
		await happens('delivered');
		await school.pass(followMs + 1);
		expect(await followLines(school.db, key)).to.equal(1);
		expect(await followLines(school.db, key)).to.equal(0);
		expect((await byWay()).map((c) => c.way)).to.deep.equal(['inbox', 'inbox', 'text']);
		const last = (await school.opened(await school.talkWith(12)))!.lines.at(-1);
		expect(last).to.include({ words: 'At four.\n\nAt the pier.', way: 'text' });
	});

	it('what was seen goes by no other way, nor where there is none', async () => {
		await live('At four.');
		await happens('delivered');
		// So soon it might be a program; the page says it again once it has stood there.
		await school.pass(12_000);
		await happens('opened');
		await school.pass(followMs + 1);
		await followLines(school.db, key);
		expect(await byWay()).to.deep.equal([{ way: 'inbox', state: 'read' }]);
		await school.text('+12075550102', 'STOP');
		await live('One more thing.');
		await school.pass(followMs + 1);
		await followLines(school.db, key);
		expect((await byWay()).map((c) => c.way)).to.deep.equal(['inbox', 'inbox']);
	});
});
