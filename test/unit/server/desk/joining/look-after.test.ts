import { expect } from 'chai';
import { readSentence } from '../../../../../src/lib/core/audience/read-sentence';
import { audienceWords } from '../../../../../src/lib/core/audience/sentence';
import { reasonText } from '../../../../../src/lib/core/audience/reasons';
import { joinToken } from '../../../../../src/lib/server/access/tokens';
import { nameBook, nameFinder } from '../../../../../src/lib/server/db/names';
import { audienceOfGroup } from '../../../../../src/lib/server/desk/audience/of-group';
import { choices } from '../../../../../src/lib/server/desk/audience/choices';
import { putIntoGroup } from '../../../../../src/lib/server/desk/groups/change-group';
import { makeOne, makeTwo } from '../../../../../src/lib/server/desk/hand/make-one';
import { invite } from '../../../../../src/lib/server/desk/joining/invite';
import { joinByLink, joinerSchema } from '../../../../../src/lib/server/desk/joining/by-link';
import { joiningsWhere } from '../../../../../src/lib/server/desk/joining/rows';
import { joinedCsv } from '../../../../../src/lib/server/desk/joining/joined-out';
import { joiningView } from '../../../../../src/lib/server/desk/joining/joiners';
import {
	answerClaim,
	giveUpGroup,
	takeJoinerOut
} from '../../../../../src/lib/server/desk/joining/look-after';
import { codeRefused, openGroup } from '../../../../../src/lib/server/desk/joining/open-group';
import { planSheet } from '../../../../../src/lib/server/desk/plan/plan-sheet';
import { as, coordinator, office, sheetOf, teacher, whyOf } from '../../database';
import type { User } from '../../../../../src/lib/server/access/user';
import { key, openSchool, within, type OpenSchool } from './open-school';

const outside = {
	publicUrl: 'https://courier.example',
	returnDomain: 'return.example',
	smppUrl: 'smpp://x'
};
const phone = '+12075550177';
/** The office of another school. */
const otherOffice = as({ ...office, personId: 95 }, 'office', 2);

describe('an open group is looked after', () => {
	let school: OpenSchool;
	beforeEach(async () => (school = await openSchool()));
	afterEach(() => school.close());
	const join = async (from: string, name: string) => {
		await school.text(from, 'KELP');
		await school.text(from, name);
		return (await school.row(from))!;
	};
	const view = async (user: User = office) => joiningView(school.db, user, school.groupId, outside);
	const planned = async (user: User = office) => {
		const audience = await audienceOfGroup(school.db, school.groupId);
		const { manifest } = await planSheet(school.db, user, sheetOf({ audience }));
		return manifest;
	};

	it('a code is chosen or given, a taken one or one that looks like it is said, and another may follow', async () => {
		const { db } = school;
		await db.run(
			`INSERT INTO school_group (id, name, kind, school_id) VALUES (70, 'Choir', 'choir', 1)`
		);
		expect(await codeRefused(db, 'kelp', school.groupId)).to.equal(null);
		expect(await codeRefused(db, 'kelp', 70)).to.equal(
			'“KELP” is taken by another group. Choose another code.'
		);
		expect(await codeRefused(db, 'KE1P', 70)).to.contain('looks like “KELP”');
		const take = async (code: string, until = '') =>
			whyOf(await openGroup(db, office, 70, { code, until }));
		expect(await take('ke1p')).to.contain('looks like');
		expect(await take('SONG', '2027-03-01')).to.contain('past');
		expect(await take('')).to.equal('done');
		const given = (await db.one<{ code: string }>('SELECT code FROM school_group WHERE id = 70'))!
			.code;
		expect(given).to.match(/^[A-Z0-9]{6}$/);
		expect(await take('SONG', '2027-04-01')).to.equal('done');
		// An empty field keeps the code there is.
		expect(await take('')).to.equal('done');
		expect(
			await db.one('SELECT code, open_until AS until FROM school_group WHERE id = 70')
		).to.deep.equal({
			code: 'SONG',
			until: null
		});
		expect(whyOf(await openGroup(db, teacher, 70, { code: 'BOAT', until: '' }))).to.contain(
			'school office'
		);
		expect(whyOf(await openGroup(db, otherOffice, 70, { code: 'BOAT', until: '' }))).to.contain(
			'another office'
		);
		await giveUpGroup(db, office, 70);
		expect(await codeRefused(db, 'SONG', school.groupId)).to.equal(null);
	});

	it('whoever joined stands in a list with when and how; of another school nobody sees it', async () => {
		await join(phone, 'Ana Pires, Linh Pham');
		await school.mail('bo@pham.example', { name: 'Bo Pham' });
		const seen = (await view())!;
		expect(seen.ways).to.include({
			code: 'KELP',
			number: '+1 207 555 0100',
			mail: 'join-kelp@return.example',
			link: 'https://courier.example/join/kelp'
		});
		expect(seen.ways!.languages).to.deep.equal(['en', 'pt', 'vi']);
		expect(seen.counts).to.deep.equal({ invited: 0, asked: 1, in: 1, left: 0, removed: 0 });
		expect(seen.lines.map((l) => [l.name, l.state, l.how, l.way])).to.have.deep.members([
			['Ana Pires', 'in', 'text', 'text'],
			['Bo Pham', 'asked', 'mail', 'email']
		]);
		const ana = seen.lines.find((l) => l.name === 'Ana Pires')!;
		expect(ana.claim).to.deep.equal({ words: 'Linh Pham', refused: false });
		expect(ana.fitting.map((f) => f.id)).to.deep.equal([3]);
		expect(ana.personId).to.be.a('number');
		expect(await view(otherOffice)).to.equal(null);
		expect(await view(teacher)).to.equal(null);
		const out = (await joinedCsv(school.db, office, school.groupId))!;
		let csv = '';
		for await (const piece of out.csv) csv += piece;
		expect(csv.split('\r\n')[1]).to.equal(
			`Ana Pires,text,'${phone},text,2027-03-09 10:00,Linh Pham,`
		);
		expect(await joinedCsv(school.db, otherOffice, school.groupId)).to.equal(null);
	});

	it('is written to: guardians of its students, and each who joined, once, by the way they joined', async () => {
		await putIntoGroup(school.db, office, school.groupId, [3], 'hand');
		await join(phone, 'Ana Pires');
		// Bao is Linh's father, and joins as well.
		const bao = await join('+12075550102', 'Bao Pham');
		const manifest = await planned();
		const copies = (personId: number) =>
			manifest.copies.filter((c) => c.personId === personId).map((c) => `${c.way} ${c.address}`);
		expect(copies(bao.personId!)).to.deep.equal(['text +12075550102', 'inbox null']);
		const ana = (await school.row(phone))!.personId!;
		expect(copies(ana)).to.deep.equal([`text ${phone}`]);
	});

	it('whoever may not look after it writes to nobody who joined, and does not learn its name', async () => {
		await join(phone, 'Ana Pires');
		for (const user of [otherOffice, teacher]) {
			const manifest = await planned(user);
			expect(manifest.copies).to.deep.equal([]);
			expect((await choices(school.db, user)).openGroups).to.deep.equal([]);
		}
		expect((await choices(school.db, office)).openGroups).to.deep.equal([
			{ id: school.groupId, name: 'Kelp Garden', note: '1 joined, Heron', students: 1 }
		]);
		expect((await planned(coordinator)).copies).to.have.length(1);
	});

	it('after its last day whoever joined is left out, with the reason', async () => {
		await openGroup(school.db, office, school.groupId, { code: 'KELP', until: '2027-03-09' });
		await join(phone, 'Ana Pires');
		expect((await planned()).copies).to.have.length(1);
		await school.pass(24 * 3_600_000);
		const manifest = await planned();
		const { personId } = (await within(school))[0]!;
		expect(manifest.copies.some((c) => c.personId === personId)).to.equal(false);
		expect(
			manifest.leftOut
				.filter((l) => l.personId === personId)
				.flatMap((l) => l.reasons.map((r) => reasonText(r)))
		).to.deep.equal(['The group they joined has ended']);
	});

	it('a student is only claimed until the office says yes; custody on file outweighs it', async () => {
		const ana = await join(phone, 'Ana Pires, Linh Pham');
		const said = (studentId: number | '', id = ana.id, user: User = office) =>
			answerClaim(school.db, user, school.groupId, { id, studentId });
		expect((await planned()).copies[0]!.studentIds).to.deep.equal([]);
		expect(whyOf(await said(99))).to.contain('no such student');
		expect(whyOf(await said(3, ana.id, otherOffice))).to.contain('another office');
		expect(whyOf(await said(3))).to.equal('done');
		expect((await planned()).copies[0]!.studentIds).to.deep.equal([3]);
		expect((await view())!.lines[0]!.student).to.deep.equal({ id: 3, name: 'Linh Pham' });
		expect(whyOf(await said(''))).to.equal('done');
		expect((await planned()).copies[0]!.studentIds).to.deep.equal([]);
		expect((await view())!.lines[0]!.claim).to.deep.equal({ words: 'Linh Pham', refused: true });
		// A yes is of this person: whoever comes next from the same phone, or names another student, claims anew.
		await said(3);
		await school.text(phone, 'STOP');
		await school.pass(3_600_000);
		await join(phone, 'Somebody Else, Linh Pham');
		expect((await planned()).copies[0]!.studentIds).to.deep.equal([]);
		expect((await view())!.lines[0]!.claim).to.deep.equal({ words: 'Linh Pham', refused: false });
		await school.db.run('UPDATE contact SET custody = 0 WHERE person_id = 12');
		const bao = await join('+12075550102', 'Bao Pham, Linh Pham');
		expect(whyOf(await said(3, bao.id))).to.contain('without custody');
	});

	it('people are invited by mail; who is not is named with the reason, and who declined stays out', async () => {
		await join(phone, 'Ana Pires');
		const go = (addresses: string) =>
			invite(school.db, office, school.groupId, { addresses, language: 'es' });
		const done = await go(
			'"Pires, Ana" <ana@pires.example>, bo@pham.example; nowhere\nhome@harbormail.example'
		);
		expect(done.ok && { invited: done.invited, not: done.not.map((n) => n.line) }).to.deep.equal({
			invited: 3,
			not: ['nowhere']
		});
		expect(await school.row('bo@pham.example')).to.include({
			...{ state: 'invited', how: 'invited', language: 'es', byId: office.personId }
		});
		// Whoever is on file by the address is written to in their language.
		expect(await school.row('home@harbormail.example')).to.include({ language: 'pt' });
		const again = await go('BO@pham.example');
		expect(again.ok && again.not[0]!.why).to.contain('within the last week');
		const token = joinToken(key, (await school.row('bo@pham.example'))!);
		const typed = joinerSchema.parse({ name: 'Bo Pham', language: 'es' });
		expect(await joinByLink(school.db, key, token, typed)).to.equal(null);
		expect((await view())!.lines.find((l) => l.name === 'Bo Pham')).to.include({
			...{ state: 'in', how: 'invited', by: 'Odile Ferro' }
		});
		await takeJoinerOut(
			school.db,
			office,
			school.groupId,
			(await school.row('bo@pham.example'))!.id
		);
		const third = await go('bo@pham.example');
		expect(third.ok && third.not[0]!.why).to.contain('let it in again');
		expect(
			whyOf(
				await invite(school.db, teacher, school.groupId, {
					addresses: 'a@b.example',
					language: 'en'
				})
			)
		).to.contain('school office');
		const many = Array.from({ length: 501 }, (_, i) => `x${i}@y.example`).join('\n');
		expect(whyOf(await go(many))).to.contain('more than 500');
	});

	it('two people who are one are one in the group as well, and apart again', async () => {
		const ana = await join(phone, 'Ana Pires');
		const made = await makeOne(school.db, coordinator, { keepId: 12, otherId: ana.personId! });
		expect(whyOf(made)).to.equal('done');
		expect(await school.row(phone)).to.include({ personId: 12, madePerson: 0, state: 'in' });
		const { id } = (await school.db.one<{ id: number }>('SELECT id FROM made_one'))!;
		expect(whyOf(await makeTwo(school.db, coordinator, id))).to.equal('done');
		expect(await school.row(phone)).to.include({ personId: ana.personId, madePerson: 1 });
	});

	it('whoever is in two groups is on file until they have left both; a group given up lets everybody go', async () => {
		const { db } = school;
		await db.run(
			`INSERT INTO school_group (id, name, kind, school_id, code, code_key) VALUES (70, 'Choir', 'choir', 1, 'SONG', '50NG')`
		);
		const ana = await join(phone, 'Ana Pires');
		await school.pass(3_600_000);
		await school.text(phone, 'SONG');
		await school.text(phone, 'Ana Pires');
		const rows = await joiningsWhere(db, 'person_id = $id', { id: ana.personId });
		expect(rows.map((r) => [r.groupId, r.madePerson])).to.deep.equal([
			[school.groupId, 1],
			[70, 1]
		]);
		const here = () => db.one('SELECT 1 FROM person_now WHERE id = $id', { id: ana.personId });
		await takeJoinerOut(db, office, school.groupId, ana.id);
		expect(await here()).not.to.equal(undefined);
		expect(whyOf(await giveUpGroup(db, office, 70))).to.equal('done');
		expect(await here()).to.equal(undefined);
	});

	it('stands in the sentence of an audience, and is read from it again', async () => {
		const audience = await audienceOfGroup(school.db, school.groupId);
		const book = await nameBook(school.db, audience);
		const lines = [
			{
				verb: 'and' as const,
				people: { kind: 'joined' as const, groupIds: [school.groupId] },
				only: []
			}
		];
		const words = audienceWords({ version: 2, lines, byHand: [] }, book);
		expect(words).to.equal('All who joined the group Kelp Garden');
		const finder = await nameFinder(school.db, { dispatches: [], lists: [], markers: [] });
		const read = readSentence(words, finder);
		expect(read.ok && read.audience.lines).to.deep.equal(lines);
	});
});
