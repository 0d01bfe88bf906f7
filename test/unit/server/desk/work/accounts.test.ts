import { expect } from 'chai';
import { accountToken } from '../../../../../src/lib/server/access/tokens';
import { openAccountLink } from '../../../../../src/lib/server/access/account-links';
import { signIn, sessionOf, sessionsOf } from '../../../../../src/lib/server/access/sessions';
import { userById } from '../../../../../src/lib/server/access/user';
import { accountList, accountView } from '../../../../../src/lib/server/desk/work/accounts';
import {
	endInvitation,
	invite,
	inviteSchema,
	mailAgain
} from '../../../../../src/lib/server/desk/work/invite';
import {
	acceptInvitation,
	askPassword,
	changePassword,
	resetPassword
} from '../../../../../src/lib/server/desk/work/own';
import { tellElsewhere } from '../../../../../src/lib/server/desk/work/tell-owner';
import { coordinator, office, teacher, testSchool, whyOf, type TestSchool } from '../../database';

const key = Buffer.alloc(32, 7);
const words = 'four wet boots on deck';

describe('people who work here', () => {
	let school: TestSchool;
	beforeEach(async () => (school = await testSchool()));
	afterEach(() => school.close());
	const anew = {
		who: 'new',
		givenName: 'Wren',
		familyName: 'Sato',
		email: 'wren@brackwater.example'
	};
	const asked = (over: object = {}) =>
		inviteSchema.parse({ ...anew, role: 'office', place: 'school 1', ...over });
	const invited = async (over: object = {}) => {
		const done = await invite(school.db, coordinator, asked(over));
		if (!done.ok) throw new Error(done.why);
		return done.personId;
	};
	/** The token of the newest link of somebody, as it stands in their letter. */
	async function tokenOf(personId: number): Promise<string> {
		const row = (
			await school.db.all<{ id: number; nonce: string }>(
				'SELECT id, nonce FROM account_link WHERE person_id = $personId ORDER BY id DESC LIMIT 1',
				{ personId }
			)
		)[0]!;
		return accountToken(key, row);
	}
	const accept = async (personId: number, over: object = {}, token?: string) =>
		acceptInvitation(school.db, key, token ?? (await tokenOf(personId)), {
			...{ userName: 'wren', password: words, again: words, ...over }
		});
	const letters = (personId: number) =>
		school.db.all<{ subject: string; text: string }>(
			'SELECT subject, text FROM notice WHERE person_id = $personId ORDER BY id',
			{ personId }
		);

	it('are invited by mail, set a password, and come in with their role', async () => {
		const id = await invited();
		const [letter] = await letters(id);
		expect(letter!.text).to.contain('Maren Quill has invited you').and.contain('{link}');
		// The database holds no link that opens anything.
		const row = await school.db.one('SELECT * FROM account_link');
		expect(JSON.stringify([letter, row])).not.to.contain(await tokenOf(id));
		expect((await accountList(school.db)).find((a) => a.personId === id)).to.include({
			state: 'invited'
		});
		expect(await userById(school.db, id)).to.equal(null);
		expect(whyOf(await accept(id))).to.equal('done');
		expect((await userById(school.db, id))!.rights['look-after']!.schools).to.deep.equal([1]);
		const session = await signIn(school.db, 'WREN ', words);
		expect(session.ok).to.equal(true);
	});

	it('come in by a link once, within its day, and by no other', async () => {
		const id = await invited();
		const token = await tokenOf(id);
		const other = token.replace(/.$/, (c) => (c === 'A' ? 'B' : 'A'));
		expect(await openAccountLink(school.db, key, other)).to.deep.equal({ ok: false, ended: false });
		expect(whyOf(await accept(id, {}, other))).to.contain('its day is over');
		expect(whyOf(await accept(id, {}, `${token.replace(/^\d+/, '999')}`))).to.contain(
			'day is over'
		);
		expect(await openAccountLink(school.db, Buffer.alloc(32, 8), token)).to.include({ ok: false });
		expect(whyOf(await accept(id))).to.equal('done');
		expect(await openAccountLink(school.db, key, token)).to.deep.equal({ ok: false, ended: true });
		expect(whyOf(await accept(id, { userName: 'wren2' }, token))).to.contain('has been used');
		const late = await invited({ email: 'late@brackwater.example' });
		await school.db.run('UPDATE account_link SET ends_at = $t WHERE person_id = $late', {
			...{ t: Date.now() - 1, late }
		});
		expect(whyOf(await accept(late, { userName: 'late' }))).to.contain('its day is over');
		expect((await accountView(school.db, coordinator, late))!.state).to.equal('invitation-over');
	});

	it('say their user name and password: a taken name, a short or unequal one changes nothing', async () => {
		const id = await invited();
		expect(whyOf(await accept(id, { userName: 'maren' }))).to.contain('has that user name');
		expect(whyOf(await accept(id, { again: `${words}.` }))).to.contain('not the same');
		expect(whyOf(await accept(id, { password: 'wren', again: 'wren' }))).to.contain('15');
		expect(whyOf(await accept(id))).to.equal('done');
	});

	it('are one on file, with an address that works, and no student', async () => {
		const why = async (over: object) => whyOf(await invite(school.db, coordinator, asked(over)));
		expect(await why({ who: 'known', personId: 1 })).to.contain('adult');
		expect(await why({ who: 'known', personId: 91 })).to.contain('work here already');
		expect(await why({ who: 'known', personId: 12 })).to.contain('No mail address');
		expect(await why({ email: 'home@harbormail.example' })).to.contain('Delfina Amaro');
		expect(await why({ email: 'nobody' })).to.contain('no mail address');
		expect(await why({ place: 'school 77' })).to.contain('no such school');
		expect(await why({ role: 'coordinator' })).to.contain('whole district');
		// What is refused leaves nothing behind.
		expect(await school.db.one(`SELECT 1 FROM person WHERE given_name = 'Wren'`)).to.equal(
			undefined
		);
		expect(await why({ who: 'known', personId: 10 })).to.equal('done');
		for (const user of [office, teacher])
			expect(whyOf(await invite(school.db, user, asked()))).to.contain('has the right to say so');
	});

	it('are no longer invited once it is taken back, and again once it is mailed again', async () => {
		const id = await invited();
		const first = await tokenOf(id);
		expect(whyOf(await mailAgain(school.db, coordinator, id))).to.equal('done');
		expect(whyOf(await accept(id, {}, first))).to.contain('its day is over');
		const second = await tokenOf(id);
		expect(whyOf(await endInvitation(school.db, coordinator, id))).to.equal('done');
		expect(whyOf(await accept(id, {}, second))).to.contain('its day is over');
		expect(await school.db.one('SELECT 1 FROM role WHERE person_id = $id', { id })).to.equal(
			undefined
		);
		expect((await accountList(school.db)).some((a) => a.personId === id)).to.equal(false);
	});

	describe('once in', () => {
		let id: number;
		let token: string;
		beforeEach(async () => {
			id = await invited();
			await accept(id);
			const session = await signIn(school.db, 'wren', words, { address: '10.0.0.7', agent: '' });
			token = session.ok ? session.token : '';
		});
		const session = async () => (await sessionOf(school.db, token))!;

		it('change their password: every other session ends, and they are told', async () => {
			const other = await signIn(school.db, 'wren', words);
			const { user, id: mine } = await session();
			const change = (over: object) =>
				changePassword(
					...([school.db, user, mine] as const),
					{
						before: words,
						password: 'five dry boots ashore',
						again: 'five dry boots ashore',
						...over
					},
					'10.0.0.7'
				);
			expect(whyOf(await change({ before: 'another one' }))).to.contain('another one');
			expect(whyOf(await change({}))).to.equal('done');
			expect(await sessionOf(school.db, other.ok ? other.token : '')).to.equal(null);
			expect((await session()).id).to.equal(mine);
			expect((await signIn(school.db, 'wren', words)).ok).to.equal(false);
			expect((await signIn(school.db, 'wren', 'five dry boots ashore')).ok).to.equal(true);
			expect((await letters(id)).map((l) => l.subject)).to.include('Your password was changed');
		});

		it('who have forgotten it are mailed a link, whatever was typed is answered alike', async () => {
			const before = (await letters(id)).length;
			for (const typed of ['wren', 'WREN@brackwater.example', 'nobody', "' OR 1"])
				expect(await askPassword(school.db, typed, '10.0.0.9')).to.equal(0);
			const mailed = (await letters(id)).slice(before);
			expect(mailed).to.have.length(2);
			const set = (password: string) =>
				tokenOf(id).then((t) => resetPassword(school.db, key, t, { password, again: password }));
			expect(whyOf(await set('short'))).to.contain('15');
			expect(whyOf(await set('six warm boots at home'))).to.equal('done');
			expect(await sessionOf(school.db, token)).to.equal(null);
			expect(await sessionsOf(school.db, id)).to.deep.equal([]);
			// An invitation’s page takes no link of this kind, nor the other way round.
			await askPassword(school.db, 'wren', '10.0.0.9');
			expect(whyOf(await accept(id, { userName: 'other' }))).to.contain('its day is over');
			let wait = 0;
			for (let i = 0; i < 12 && wait === 0; i += 1)
				wait = await askPassword(school.db, 'wren', '10.0.0.9');
			expect(wait).to.be.above(0);
		});

		it('are told of a sign-in from elsewhere, not of one from where they were', async () => {
			const from = (
				address: string,
				agent = 'Mozilla/5.0 (X11; Linux x86_64; rv:150.0) Gecko/20100101 Firefox/150.0'
			) =>
				signIn(school.db, 'wren', words, { address, agent }).then((s) => s.ok && s.fromElsewhere);
			expect(await from('10.0.0.7')).to.equal('Firefox on Linux');
			expect(await from('10.0.0.99')).to.equal(null);
			expect(await from('192.0.2.1')).to.equal('Firefox on Linux');
			await tellElsewhere(school.db, id, 'Firefox on Linux');
			expect((await letters(id)).at(-1)!.text).to.contain('Firefox on Linux');
		});
	});
});
