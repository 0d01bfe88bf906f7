import { expect } from 'chai';
import { signIn as byPassword, sessionOf } from '../../../../../src/lib/server/access/sessions';
import { hashPassword } from '../../../../../src/lib/server/access/passwords';
import { userById } from '../../../../../src/lib/server/access/user';
import { signIn } from '../../../../../src/lib/server/db/models/access';
import {
	letGoOutside,
	signInOutside,
	whoWouldBe
} from '../../../../../src/lib/server/desk/work/outside';
import { askPassword } from '../../../../../src/lib/server/desk/work/own';
import { changeAddress } from '../../../../../src/lib/server/desk/hand/addresses';
import { mendAddress } from '../../../../../src/lib/server/desk/people/mend';
import type { CameBack } from '../../../../../src/lib/server/gateway/identity';
import { keepIdentity, type IdentityProvider } from '../../../../../src/lib/server/identity';
import { coordinator, office, testSchoolWithOffice, whyOf, type TestSchool } from '../../database';

const key = Buffer.alloc(32, 5);
const provider: IdentityProvider = {
	...{ name: 'Harbor', issuer: 'https://harbor.example', clientId: 'c', secret: 's', shown: true },
	...{ claim: 'email', fits: 'mail', unconfirmed: false, teachers: 'roster' },
	passwords: 'everybody'
};
const browser = { address: '192.0.2.1', agent: 'test', before: undefined };
/** Somebody who comes back from there. */
const came = (subject: string, claims: object = {}, withFactor = false): CameBack => ({
	...{ issuer: provider.issuer, subject, withFactor },
	claims: { email: `${subject}@brackwater.example`, email_verified: true, ...claims }
});

describe('coming in by the identity provider', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchoolWithOffice();
		await school.db.run(`INSERT INTO address (person_id, way, value, consent) VALUES
			(90, 'email', 'maren@brackwater.example', 'unknown'), (91, 'email', 'chidi@brackwater.example', 'unknown'),
			(95, 'email', 'odile@brackwater.example', 'unknown')`);
	});
	afterEach(() => school.close());
	const comes = (who: CameBack, over: Partial<IdentityProvider> = {}) =>
		signInOutside(school.db, { ...provider, ...over }, who, browser);
	const comesAs = async (who: CameBack, over: Partial<IdentityProvider> = {}) => {
		const done = await comes(who, over);
		return done.ok ? done.personId : done.why.split('.')[0];
	};
	const letters = async (personId: number) =>
		(
			await school.db.all<{ subject: string }>(
				'SELECT subject FROM notice WHERE person_id = $personId',
				{ personId }
			)
		).map((n) => n.subject);
	const log = (act: string) =>
		school.db.all<{ after: string | null; about: number | null }>(
			'SELECT after, thing_id AS about FROM log_line WHERE act = $act ORDER BY id',
			{ act }
		);
	/** A teacher of the roster who has no account here. */
	async function newTeacher(): Promise<void> {
		await school.db.run(
			`INSERT INTO person (id, kind, given_name, family_name, language, has_inbox) VALUES (96, 'adult', 'Wren', 'Sato', 'en', 1)`
		);
		await school.db.run('INSERT INTO section_staff VALUES (101, 96)');
		await school.db.run(
			`INSERT INTO address (person_id, way, value, consent) VALUES (96, 'email', 'wren@brackwater.example', 'unknown')`
		);
	}

	it('finds a colleague by their address the first time, opens a session, tells them and writes it down', async () => {
		const done = await comes(came('maren', { email: 'Maren@Brackwater.example' }));
		if (!done.ok) throw new Error(done.why);
		expect((await sessionOf(school.db, done.token))!.user.name).to.equal('Maren Quill');
		expect(await letters(90)).to.deep.equal(['You sign in by Harbor from now on']);
		expect(await log('outside-name')).to.deep.equal([{ after: null, about: 90 }]);
	});

	it('afterwards they are who they are there, whatever address they have: issuer and subject stay (OpenID Connect Core 1.0 section 5.7)', async () => {
		expect(await comesAs(came('maren'))).to.equal(90);
		expect(await comesAs(came('maren', { email: 'chidi@brackwater.example' }))).to.equal(90);
		expect(await comesAs(came('maren', { email: undefined }))).to.equal(90);
		// An address that has gone over to another person there gives them nothing here.
		const after = came('another', { email: 'maren@brackwater.example' });
		expect(await comesAs(after)).to.equal('Your account here belongs to another name there');
		expect(whyOf(await letGoOutside(school.db, office, 90))).to.contain('right to say so');
		expect(whyOf(await letGoOutside(school.db, coordinator, 90))).to.equal('done');
		expect(await comesAs(after)).to.equal(90);
	});

	it('an address that is not confirmed there opens nothing, unless the district says so', async () => {
		const loose = came('maren', { email_verified: false });
		const why = 'It does not say that it has confirmed your mail address';
		expect(await comesAs(loose)).to.equal(why);
		expect(await comesAs(came('maren', { email_verified: 'true' }))).to.equal(why);
		expect(await comesAs(loose, { unconfirmed: true })).to.equal(90);
	});

	it('nobody, several, and whoever only reads here do not come in; each is written down without the address', async () => {
		const nobody = 'Nobody who works here is known by it';
		expect(await comesAs(came('stranger'))).to.equal(nobody);
		// A guardian, by the address on their file.
		expect(await comesAs(came('delfina', { email: 'home@harbormail.example' }))).to.equal(nobody);
		await school.db.run(
			`INSERT INTO address (person_id, way, value, consent) VALUES (91, 'email', 'maren@brackwater.example', 'unknown')`
		);
		expect(await comesAs(came('maren'))).to.equal(
			'More than one person who works here is known by it'
		);
		// A family that writes a colleague's address on its own page closes nobody's way in.
		await school.db.run(
			`INSERT INTO address (person_id, way, value, consent) VALUES (10, 'email', 'odile@brackwater.example', 'unknown')`
		);
		expect(await comesAs(came('odile'))).to.equal(95);
		for (const claim of [undefined, '', 7.5, {}, 'x'.repeat(400)])
			expect(await comesAs(came('x', { email: claim }))).to.match(/does not say who|Nobody/);
		const refused = await log('sign-in-refused');
		expect(refused.length).to.equal(8);
		expect(JSON.stringify(refused)).not.to.contain('@');
	});

	it('people are found by their user name, or by the number that the district gives them', async () => {
		await school.db.run(`UPDATE person SET identifier = 'S-0091' WHERE id = 91`);
		expect(
			await comesAs(came('a', { employee: 'S-0091' }), { claim: 'employee', fits: 'number' })
		).to.equal(91);
		expect(
			await comesAs(came('b', { preferred_username: 'Odile' }), {
				...{ claim: 'preferred_username', fits: 'user-name' }
			})
		).to.equal(95);
	});

	it('a teacher of the roster comes in without being invited, for their own sections; where they have to be, they do not', async () => {
		await newTeacher();
		expect(await comesAs(came('wren'), { teachers: 'invited' })).to.equal(
			'You have no role here yet'
		);
		expect(await school.db.rows(signIn).one({ personId: 96 })).to.equal(undefined);
		expect(await comesAs(came('wren'))).to.equal(96);
		const user = (await userById(school.db, 96))!;
		expect(user.roles.map((r) => r.role)).to.deep.equal(['teacher']);
		expect(user.rights.write).to.deep.include({ whole: false, schools: [], own: true });
		expect((await school.db.rows(signIn).one({ personId: 96 }))!.userName).to.equal('wren');
		// The empty password opens nothing.
		expect((await byPassword(school.db, 'wren', '')).ok).to.equal(false);
	});

	it('whoever looks after addresses opens nobody’s account with them', async () => {
		await newTeacher();
		const [row] = await school.db.all<{ id: number }>(
			'SELECT id FROM address WHERE person_id = 96'
		);
		const changed = { id: row!.id, consent: 'unknown', said: '', on: '' } as const;
		await changeAddress(school.db, coordinator, { ...changed, value: 'mine@brackwater.example' });
		expect(await comesAs(came('mine'))).to.match(/^Your address here was written by hand/);
		// The address of somebody who signs in is put right by the district office alone, failing or not.
		await school.db.run(
			`UPDATE address SET failing = 'no such mailbox', failing_since = 1 WHERE person_id = 91`
		);
		await school.db.run(`INSERT INTO staff VALUES (91, 1, 'teacher')`);
		const failing = (await school.db.one<{ id: number }>(
			'SELECT id FROM address WHERE person_id = 91'
		))!;
		const mend = (user: typeof office) =>
			mendAddress(school.db, user, { id: failing.id, value: 'odile2@brackwater.example' });
		expect(whyOf(await mend(office))).to.contain('the district office puts their address right');
		expect(whyOf(await mend(coordinator))).to.equal('done');
	});

	it('a closed account stays closed, and a role that is over opens nothing', async () => {
		await school.db.run('UPDATE sign_in SET closed_at = 1 WHERE person_id = 91');
		expect(await comesAs(came('chidi'))).to.equal('Your account here is closed');
		await school.db.run('UPDATE role SET ends_at = 1 WHERE person_id = 95');
		expect(await comesAs(came('odile'))).to.equal('You have no role here yet');
		expect(await log('outside-name')).to.deep.equal([]);
	});

	it('a second factor of ours is asked for, unless it was there (RFC 8176 section 2, “mfa”)', async () => {
		await school.db.run(
			`INSERT INTO second_factor (person_id, secret, confirmed_at) VALUES (90, 'x', 1)`
		);
		const waits = await comes(came('maren'));
		expect(waits.ok && waits.waitsFactor).to.equal(true);
		expect(await sessionOf(school.db, waits.ok ? waits.token : '')).to.equal(null);
		const there = await comes(came('maren', {}, true));
		expect(there.ok && there.waitsFactor).to.equal(false);
		expect((await sessionOf(school.db, there.ok ? there.token : ''))!.factorOutside).to.equal(true);
	});

	it('passwords for whoever looks after settings and accounts alone: others come in by it, and get no link for a new one', async () => {
		const passwordHash = await hashPassword('four wet boots on deck');
		await school.db.run('UPDATE sign_in SET password_hash = $passwordHash', { passwordHash });
		const enters = async (name: string) =>
			(await byPassword(school.db, name, 'four wet boots on deck')).ok;
		const set = (over: Partial<IdentityProvider>) =>
			school.db.write((tx) => keepIdentity(tx, key, { ...provider, ...over }));
		await set({ passwords: 'keepers', shown: false });
		expect(await enters('odile'), 'before it stands on the page').to.equal(true);
		await set({ passwords: 'keepers' });
		expect(await enters('odile')).to.equal(false);
		expect(await enters('maren')).to.equal(true);
		await askPassword(school.db, 'odile', '192.0.2.7');
		await askPassword(school.db, 'maren', '192.0.2.7');
		expect(await letters(95)).to.deep.equal([]);
		expect((await letters(90)).length).to.equal(1);
	});

	it('trying it says who somebody would be, and changes nothing', async () => {
		expect(await whoWouldBe(school.db, provider, came('maren'))).to.deep.equal({
			...{ ok: true, personId: 90, name: 'Maren Quill' }
		});
		expect(whyOf(await whoWouldBe(school.db, provider, came('x')))).to.contain('Nobody');
		expect(await log('outside-name')).to.deep.equal([]);
	});
});
