import { expect } from 'chai';
import { joinToken } from '../../../../../src/lib/server/access/tokens';
import { joining } from '../../../../../src/lib/server/db/models/joining';
import { person } from '../../../../../src/lib/server/db/models/roster';
import { saidStop } from '../../../../../src/lib/server/db/said-stop';
import {
	askByLink,
	joinByLink,
	joinerSchema,
	joinFormSchema,
	leaveByLink,
	openJoining
} from '../../../../../src/lib/server/desk/joining/by-link';
import { takesJoining } from '../../../../../src/lib/server/desk/joining/by-mail';
import { closeGroup } from '../../../../../src/lib/server/desk/joining/open-group';
import { letAskAgain, takeJoinerOut } from '../../../../../src/lib/server/desk/joining/look-after';
import { office, whyOf } from '../../database';
import { key, openSchool, within, type OpenSchool } from './open-school';

const hour = 3_600_000;
const phone = '+12075550177';
const ana = 'ana@pires.example';

describe('an open group is joined', () => {
	let school: OpenSchool;
	beforeEach(async () => (school = await openSchool()));
	afterEach(() => school.close());
	const personOf = async (address: string) =>
		(await school.db.rows(person).one({ id: (await school.row(address))!.personId! }))!;
	const consentAt = (value: string) =>
		school.db.all<{ personId: number; consent: string; how: string | null }>(
			'SELECT person_id AS personId, consent, consent_how AS how FROM address WHERE value = $value ORDER BY id',
			{ value }
		);
	const tokenOf = async (address: string) => joinToken(key, (await school.row(address))!);
	const form = (over: object) =>
		joinFormSchema.parse({ name: 'Ana Pires', language: 'pt', ...over });

	describe('by text', () => {
		it('with the code, and a name from the same phone; before that nothing is sent to it', async () => {
			await school.text(phone, 'Kelp');
			expect(await school.row(phone)).to.include({ state: 'asked', how: 'text', personId: null });
			expect(await consentAt(phone)).to.deep.equal([]);
			expect(await school.said(phone)).to.deep.equal(['ask-name']);
			await school.text(phone, 'Ana Pires, Tomas Pires');
			expect(await school.row(phone)).to.include({ state: 'in', studentSaid: 'Tomas Pires' });
			expect(await personOf(phone)).to.include({
				givenName: 'Ana',
				familyName: 'Pires',
				kind: 'adult'
			});
			expect(await consentAt(phone)).to.deep.equal([
				{ personId: (await personOf(phone)).id, consent: 'in', how: 'joined' }
			]);
			expect(await school.said(phone)).to.deep.equal(['ask-name', 'welcome']);
			expect(
				await school.db.all('SELECT words, command FROM text_in ORDER BY id DESC')
			).to.deep.equal([
				{ words: 'Ana Pires, Tomas Pires', command: 'join' },
				{ words: 'Kelp', command: 'code' }
			]);
		});

		it('as somebody on file where number and name are theirs, and as somebody else where the name is another', async () => {
			await school.text('+12075550102', 'KELP');
			await school.text('+12075550102', 'bao  PHAM');
			expect(await school.row('+12075550102')).to.include({ personId: 12, madePerson: 0 });
			await school.text('+12075550101', 'KELP');
			await school.text('+12075550101', 'Paulo Amaro');
			// Paulo is on file with no phone: the number is Delfina's, and nobody learns that from here.
			const joined = (await school.row('+12075550101'))!;
			expect([10, 11]).not.to.include(joined.personId);
			expect((await consentAt('+12075550101')).map((a) => a.personId)).to.deep.equal([
				10,
				joined.personId
			]);
		});

		it('asks once more for what is no name, and five times a day at most', async () => {
			await school.text(phone, 'KELP');
			for (const words of ['Who is this?', '2027', 'http://x.example', 'hm?', 'no!!1', 'a@b'])
				await school.text(phone, words);
			expect(await school.said(phone)).to.have.length(5);
			expect(await within(school)).to.deep.equal([]);
			await school.text(phone, 'Ana Pires');
			expect(await within(school)).to.have.length(1);
		});

		it('takes a name for an answer for a day, and is asked anew after it', async () => {
			await school.text(phone, 'KELP');
			await school.pass(25 * hour);
			await school.text(phone, 'Ana Pires');
			expect(await within(school)).to.deep.equal([]);
			await school.pass(hour);
			await school.text(phone, 'KELP');
			await school.text(phone, 'Ana Pires');
			expect(await within(school)).to.have.length(1);
		});

		it('answers nobody who tries codes: after twenty words of a day none is a code any more', async () => {
			for (let i = 0; i < 20; i += 1) await school.text(phone, `guess${i}`);
			await school.text(phone, 'KELP');
			expect(await school.row(phone)).to.equal(undefined);
			await school.pass(25 * hour);
			await school.text(phone, 'KELP');
			expect(await school.row(phone)).to.include({ state: 'asked' });
		});

		it('STOP leaves, ends texts and what waited to be said; the code from the phone brings both back', async () => {
			await school.text(phone, 'KELP');
			await school.text(phone, 'Ana Pires');
			const { id } = await personOf(phone);
			await school.text(phone, 'STOP');
			expect(await school.row(phone)).to.include({ state: 'left' });
			expect((await consentAt(phone))[0]).to.include({ consent: 'out' });
			// On file for nothing else, they are there no longer; what names them stays.
			expect((await school.db.rows(person).one({ id }))!.goneAt).to.be.a('number');
			const waiting = await school.db.one(
				`SELECT 1 FROM auto_note WHERE joining_id IS NOT NULL AND state = 'waiting'`
			);
			expect(waiting).to.equal(undefined);
			expect(await saidStop(school.db, phone)).to.equal(true);
			await school.pass(2 * hour);
			await school.text(phone, 'KELP');
			await school.text(phone, 'Ana Pires');
			expect(await school.row(phone)).to.include({ state: 'in', personId: id });
			expect((await consentAt(phone))[0]).to.include({ consent: 'in' });
			expect(await saidStop(school.db, phone)).to.equal(false);
		});
	});

	describe('by mail', () => {
		it('whoever wrote is asked by a letter, and is in once they say so on its page; looking at it changes nothing', async () => {
			await school.mail(ana, { name: 'Ana Pires' });
			expect(await school.row(ana)).to.include({ state: 'asked', how: 'mail', name: 'Ana Pires' });
			const token = await tokenOf(ana);
			expect((await openJoining(school.db, key, token))!.open).to.equal(true);
			expect(await within(school)).to.deep.equal([]);
			const typed = joinerSchema.parse({ name: 'Ana Pires', student: 'Tomas', language: 'pt' });
			expect(await joinByLink(school.db, key, token, typed)).to.equal(null);
			expect(await school.row(ana)).to.include({
				state: 'in',
				studentSaid: 'Tomas',
				language: 'pt'
			});
			expect(await school.said(ana)).to.deep.equal(['ask', 'welcome']);
			await leaveByLink(school.db, key, token);
			expect(await school.row(ana)).to.include({ state: 'left' });
			expect(await joinByLink(school.db, key, token, typed)).to.equal(null);
			expect(await within(school)).to.have.length(1);
		});

		it('only at an address of a group that is there; STOP in it takes nobody out, since anybody can write any sender: it is answered with the page', async () => {
			expect(await takesJoining(school.db, 'join-kelp@return.example')).to.equal(true);
			expect(await takesJoining(school.db, 'JOIN-KE1P@return.example')).to.equal(true);
			for (const other of [
				'join-help@x.example',
				'join-none7@x.example',
				'kelp@x.example',
				'join-@x'
			])
				expect(await takesJoining(school.db, other), other).to.equal(false);
			await school.mail(ana);
			await joinByLink(school.db, key, await tokenOf(ana), joinerSchema.parse({ name: 'Ana' }));
			await school.mail(ana, { subject: 'Stop' });
			expect(await school.row(ana)).to.include({ state: 'in' });
			expect(await school.said(ana)).to.deep.equal(['ask', 'welcome', 'welcome']);
		});

		it('a stranger’s mailbox is written to five times a day at most, whoever types it', async () => {
			for (let i = 0; i < 12; i += 1) await school.mail(ana);
			for (let i = 0; i < 12; i += 1)
				await askByLink(school.db, 'kelp', form({ way: 'email', address: ana.toUpperCase() }));
			expect(await school.said(ana)).to.have.length(5);
		});
	});

	describe('on the page', () => {
		it('a text asks, and the code from that phone is the answer', async () => {
			const asked = await askByLink(
				school.db,
				'ke1p',
				form({ way: 'text', address: '(207) 555-0177', student: 'Tomas Pires' })
			);
			expect(asked).to.deep.equal({ ok: true, to: phone });
			expect(await school.said(phone)).to.deep.equal(['ask']);
			await school.text(phone, 'kelp');
			expect(await school.row(phone)).to.include({ state: 'in', how: 'link', name: 'Ana Pires' });
		});

		it('what cannot be is said by its phrase, and nothing is put down', async () => {
			const fault = async (over: object, code = 'kelp') => {
				const asked = await askByLink(
					school.db,
					code,
					form({ way: 'email', address: ana, ...over })
				);
				return asked.ok ? 'asked' : asked.fault;
			};
			expect(await fault({}, 'none7')).to.equal('noCode');
			expect(await fault({ name: '' })).to.equal('noName');
			expect(await fault({ name: 'Ana, Bo' })).to.equal('noName');
			expect(await fault({ student: '<script>' })).to.equal('noName');
			expect(await fault({ address: 'nowhere' })).to.equal('noAddress');
			// Texts abroad are what whoever wants to make us pay asks for.
			expect(await fault({ way: 'text', address: '+375291234567' })).to.equal('noAddress');
			expect(await school.db.one('SELECT 1 FROM joining')).to.equal(undefined);
			await closeGroup(school.db, office, school.groupId);
			expect(await fault({})).to.equal('noCode');
		});

		it('whoever is asked by strangers all day can still join with the code from the phone itself', async () => {
			for (let i = 0; i < 9; i += 1)
				await askByLink(school.db, 'kelp', form({ way: 'text', address: phone }));
			expect(await school.said(phone)).to.have.length(5);
			await school.pass(25 * hour);
			for (let i = 0; i < 9; i += 1)
				await askByLink(school.db, 'kelp', form({ way: 'text', address: phone, name: 'X' }));
			await school.db.run(`UPDATE joining SET name = ''`);
			await school.text(phone, 'KELP');
			await school.text(phone, 'Bo Pham');
			expect(await school.row(phone)).to.include({ state: 'in', name: 'Bo Pham' });
		});

		it('whoever comes and goes without end is held up: each time everybody would read the roster anew', async () => {
			await school.mail(ana);
			const token = await tokenOf(ana);
			const typed = joinerSchema.parse({ name: 'Ana' });
			const came: unknown[] = [];
			for (let i = 0; i < 14; i += 1) {
				came.push(await joinByLink(school.db, key, token, typed));
				await leaveByLink(school.db, key, token);
			}
			expect(came.filter((c) => c === null)).to.have.length(11);
			expect(came.at(-1)).to.equal('wait');
		});

		it('whoever answered STOP is asked nothing; the same is said on the page', async () => {
			await school.text(phone, 'STOP');
			const asked = await askByLink(school.db, 'kelp', form({ way: 'text', address: phone }));
			expect(asked.ok).to.equal(true);
			expect(await school.said(phone)).to.deep.equal([]);
		});

		it('a link of somebody else, cut or changed, opens nothing', async () => {
			await school.mail(ana);
			await school.mail('bo@pham.example');
			const [own, other] = [await tokenOf(ana), await tokenOf('bo@pham.example')];
			const mixed = `${own.split('-')[0]}-${other.slice(other.indexOf('-') + 1)}`;
			for (const token of [
				mixed,
				own.slice(0, -1),
				`${own}x`,
				'1',
				'',
				'999999-aaaaaaaaaaaaaaaaaaaaaa'
			])
				expect(await openJoining(school.db, key, token), token).to.equal(null);
			expect(await openJoining(school.db, Buffer.alloc(32, 8), own)).to.equal(null);
			// After a backup was put back its number may be another's: with another random value.
			const row = (await school.row(ana))!;
			const restored = { ...row, nonce: 'another one' };
			expect(joinToken(key, restored)).not.to.equal(own);
			await school.db.run(`UPDATE joining SET nonce = 'another one' WHERE id = ${row.id}`);
			expect(await openJoining(school.db, key, own)).to.equal(null);
			await school.db.rows(joining).change({ id: row.id }, { nonce: row.nonce });
			await school.pass(8 * 24 * hour);
			expect((await openJoining(school.db, key, own))!.open).to.equal(false);
			const typed = joinerSchema.parse({ name: 'Ana' });
			expect(await joinByLink(school.db, key, own, typed)).to.equal('ended');
		});
	});

	it('whom the office takes out does not come in again by the same address until it says so', async () => {
		await school.text(phone, 'KELP');
		await school.text(phone, 'Ana Pires');
		const { id } = (await school.row(phone))!;
		expect(whyOf(await takeJoinerOut(school.db, office, school.groupId, id))).to.equal('done');
		await school.pass(hour);
		for (const words of ['KELP', 'Ana Pires']) await school.text(phone, words);
		await askByLink(school.db, 'kelp', form({ way: 'text', address: phone }));
		expect(await school.row(phone)).to.include({ state: 'removed' });
		// The phone itself is told; whoever types the number on the page learns nothing.
		expect(await school.said(phone)).to.deep.equal(['ask-name', 'welcome', 'removed']);
		expect(whyOf(await letAskAgain(school.db, office, school.groupId, id))).to.equal('done');
		await school.pass(hour);
		await school.text(phone, 'KELP');
		await school.text(phone, 'Ana Pires');
		expect(await within(school)).to.have.length(1);
	});

	it('until its last day, and by nobody after it', async () => {
		await school.close();
		school = await openSchool('2027-03-10');
		await school.mail(ana);
		const token = await tokenOf(ana);
		await school.pass(48 * hour);
		await school.text(phone, 'KELP');
		expect(await school.said(phone)).to.deep.equal(['over']);
		const typed = joinerSchema.parse({ name: 'Ana' });
		expect(await joinByLink(school.db, key, token, typed)).to.equal('ended');
		expect(await within(school)).to.deep.equal([]);
	});
});
