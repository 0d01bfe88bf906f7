import { expect } from 'chai';
import { claim } from '../../../../../courier/claim';
import { identity } from '../../../../../courier/identity';
import { writeOutcomes } from '../../../../../courier/outcomes';
import { openLink } from '../../../../../src/lib/server/access/private-link';
import { moveTo, now } from '../../../../../src/lib/server/clock';
import { file } from '../../../../../src/lib/server/db/models/dispatch';
import { noteForPerson, notePlayed } from '../../../../../src/lib/server/desk/family/notes';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import type { LetterSettings } from '../../../../../src/lib/server/desk/sheet/sheet';
import { tokenOf } from '../../../../named';
import {
	coordinator,
	office,
	sheetOf,
	teacher,
	testSchoolWithOffice,
	type TestSchool
} from '../../database';

const key = Buffer.alloc(32, 7);
const visitor = {
	...{ method: 'POST', agent: 'Mozilla/5.0 Firefox/140.0', purpose: '', key: 'phone' }
};

describe('a note that goes with a letter', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchoolWithOffice();
	});
	afterEach(() => school.close());

	const put = (owner: number, type = 'video/webm') =>
		school.db.rows(file).add({
			...{ hash: `h${owner}`, name: 'note.webm', type, bytes: 10, width: null, height: null },
			...{ ownerId: owner, madeAt: 0 }
		});
	const noteOf = (fileId: number): NonNullable<LetterSettings['note']> => ({
		...{ fileId, kind: 'voice', ms: 9_000, words: 'At nine.', picture: null }
	});
	const sheet = (note: LetterSettings['note']) =>
		sheetOf({ holdMinutes: 0, letter: { ...sheetOf().letter, note } });
	/** Sends a sheet, lets its emails leave, and gives the dispatch and its copies by email. */
	async function sent(note: LetterSettings['note']) {
		const one = sheet(note);
		const { tally } = await landing(school.db, coordinator, one);
		const done = await schedule(school.db, key, coordinator, one, tally.copies);
		if (!done.ok) throw new Error(done.checks.map((c) => c.text).join(' '));
		const me = identity(school.db);
		await me.beat();
		const at = await now(school.db);
		const copies = await claim(school.db, me, 'email', 50);
		for (const copy of copies)
			await school.db.write((tx) =>
				writeOutcomes(tx, [{ copy, outcome: { kind: 'accepted', detail: 'ok' }, at }])
			);
		await moveTo(school.db, at + 60_000);
		return {
			id: done.dispatchId,
			copies: await school.db.all<{ id: number; person: number }>(
				`SELECT id, person_id AS person FROM delivery WHERE dispatch_id = ${done.dispatchId} AND way = 'email' ORDER BY id`
			)
		};
	}
	const opened = async (copy: number) => {
		const link = await openLink(school.db, await tokenOf(school.db, key, copy));
		if (!link.ok) throw new Error('the link does not open');
		return link;
	};
	const played = () =>
		school.db.all<{ strength: string }>(`SELECT strength FROM event WHERE kind = 'played'`);

	it('is theirs who have the letter, as long as it is sound or film', async () => {
		const voice = await put(coordinator.personId);
		const { copies } = await sent(noteOf(voice));
		const [mine] = copies;
		expect(await noteForPerson(school.db, mine!.person, voice)).to.include({ type: 'video/webm' });
		const stranger = (await school.db.one<{ id: number }>(
			'SELECT id FROM person WHERE id NOT IN (SELECT person_id FROM delivery UNION SELECT person_id FROM delivery_also) LIMIT 1'
		))!.id;
		expect(await noteForPerson(school.db, stranger, voice)).to.equal(null);
		const paper = await put(coordinator.personId, 'application/pdf');
		const { copies: later } = await sent(noteOf(paper));
		expect(await noteForPerson(school.db, later[0]!.person, paper)).to.equal(null);
	});

	it('is strong evidence once it was played, again adds nothing, and of a letter without one it is none', async () => {
		const { id, copies } = await sent(noteOf(await put(coordinator.personId)));
		const link = await opened(copies[0]!.id);
		expect(await notePlayed(school.db, link, id, visitor)).to.equal(true);
		expect(await notePlayed(school.db, link, id, visitor)).to.equal(true);
		expect(await played()).to.deep.equal([{ strength: 'strong' }]);
		const plain = await sent(null);
		const other = await opened(plain.copies[0]!.id);
		expect(await notePlayed(school.db, other, plain.id, visitor)).to.equal(false);
		expect(await notePlayed(school.db, other, 9_999, visitor)).to.equal(false);
		expect(await played()).to.have.length(1);
	});

	it('is not played by who has no copy of it, and weak where a machine says so', async () => {
		const { id, copies } = await sent(noteOf(await put(coordinator.personId)));
		await school.db.run(`DELETE FROM delivery_student WHERE delivery_id = ${copies.at(-1)!.id}`);
		const strange = { ...(await opened(copies[0]!.id)), personId: 9_999, deliveryId: null };
		expect(await notePlayed(school.db, strange, id, visitor)).to.equal(false);
		const robot = { ...visitor, agent: 'SomeScanner/1.0 (bot)', key: 'robot' };
		expect(await notePlayed(school.db, await opened(copies[0]!.id), id, robot)).to.equal(true);
		expect(await played()).to.deep.equal([{ strength: 'weak' }]);
	});

	it('is refused where its sound or its picture is somebody else’s', async () => {
		const own = await put(teacher.personId);
		const theirs = await put(office.personId);
		const blocks = async (note: LetterSettings['note']) =>
			(await landing(school.db, teacher, sheet(note))).checks.filter(
				(c) => c.level === 'block' && c.where === 'files'
			);
		expect(await blocks(noteOf(own))).to.have.length(0);
		expect(await blocks(noteOf(theirs))).to.have.length(1);
		const picture = { fileId: theirs, width: 10, height: 10 };
		expect(await blocks({ ...noteOf(own), picture })).to.have.length(1);
	});
});
