import { expect } from 'chai';
import { openSession, sessionOf, sessionsOf } from '../../../../../src/lib/server/access/sessions';
import { usualTiming } from '../../../../../src/lib/core/time/timing';
import { file } from '../../../../../src/lib/server/db/models/dispatch';
import { readChoices } from '../../../../../src/lib/server/desk/family/choices';
import { joinOffered } from '../../../../../src/lib/server/desk/joining/by-link';
import { readAddress } from '../../../../../src/lib/server/desk/people/read-address';
import { tallyOf } from '../../../../../src/lib/core/plan/tally';
import { planSheet } from '../../../../../src/lib/server/desk/plan/plan-sheet';
import { wordingInput } from '../../../../../src/lib/server/desk/plan/wording-input';
import { fileForUser } from '../../../../../src/lib/server/desk/sheet/files';
import { readDistrict } from '../../../../../src/lib/server/db/district';
import {
	changeChapter,
	chapterView,
	wanted
} from '../../../../../src/lib/server/desk/district/change';
import type { Values } from '../../../../../src/lib/server/desk/district/form';
import { effectsOf, movesScheduled } from '../../../../../src/lib/server/desk/district/effects';
import { readSettled } from '../../../../../src/lib/server/desk/district/settled';
import { chapterCodes, subjectOf } from '../../../../../src/lib/server/desk/district/subject';
import { followZone, replanAhead } from '../../../../../src/lib/server/desk/send/replan';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { coordinator, office, sheetOf, testSchool, whyOf, type TestSchool } from '../../database';

const key = Buffer.alloc(32, 7);

describe('the chapters of the settings', () => {
	let school: TestSchool;
	beforeEach(async () => (school = await testSchool()));
	afterEach(() => school.close());
	const subject = async (code: string) => (await subjectOf(school.db, code))!;
	const standing = async (code: string): Promise<Values> =>
		(await subject(code)).valuesOf(await readSettled(school.db));
	const look = async (code: string, change: Values) =>
		wanted(school.db, coordinator, await subject(code), { ...(await standing(code)), ...change });
	async function change(code: string, values: Values, user = coordinator) {
		const { seen } = await chapterView(school.db, await subject(code));
		return changeChapter(
			school.db,
			user,
			await subject(code),
			{ ...(await standing(code)), ...values },
			seen
		);
	}
	const dueAt = async () =>
		new Map(
			(
				await school.db.all<{ key: string; at: number }>(
					`SELECT person_id || ' ' || way AS key, due_at AS at FROM delivery`
				)
			).map(({ key: copy, at }) => [copy, at])
		);

	it('a form that is sent as it was changes nothing, whatever stands there', async () => {
		for (const code of chapterCodes) {
			const same = await look(code, {});
			expect(same, code).to.include({ ok: true });
			if (!same.ok) continue;
			expect(same.changes, code).to.deep.equal([]);
			expect(same.after, code).to.deep.equal(same.before);
			expect(await change(code, {}), code).to.deep.include({ ok: true });
		}
		expect(await school.db.one('SELECT 1 FROM setting_change')).to.equal(undefined);
	});

	it('what cannot be is refused in words, and nothing is changed', async () => {
		const before = await readDistrict(school.db);
		const wrong: readonly (readonly [string, Values, RegExp])[] = [
			['district', { name: '  ' }, /name is empty/],
			['district', { name: 'x\u202e' }, /cannot be seen/],
			['district', { zone: 'Brackwater/Quay' }, /zone/],
			['quiet', { textFrom: '9 pm' }, /time of day, as 21:00/],
			['quiet', { mailTo: '24:00' }, /time of day/],
			['quiet', { weekdays: [] }, /one day of the week/],
			['quiet', { weekdays: ['8'] }, /./],
			['quiet', { schoolBegins: '05:00' }, /each is later/],
			['district', { clock: '13' }, /time of day/],
			['district', { country: 'ZZ' }, /country of numbers/],
			['languages', { languages: [] }, /one language is offered/i],
			['languages', { languages: ['es'] }, /English is the language of everybody/],
			['languages', { languages: ['en', 'tlh'] }, /languages there are/],
			['letterhead', { colour: 'red' }, /written like #0f5c63/],
			['letterhead', { colour: '#9fc5c9' }, /too light .* 1\.8, and 4\.5 is the least/],
			['letterhead', { footer: 'x\n'.repeat(13) }, /12 lines/],
			['letterhead', { footer: 'a\u202eb' }, /cannot be seen/],
			['letterhead', { logo: '1' }, /logo again/],
			['letterhead', { logo: '999 10 10' }, /not there any more/],
			['sending', { holdMessage: '-1' }, /whole number/],
			['sending', { holdMessage: '99999' }, /at most/],
			['sending', { paceEmail: '0' }, /pace of emails/],
			['sending', { price: 'free' }, /cents/],
			['answers', { linkDays: '1.5' }, /whole number/],
			['answers', { stop: 'basta', start: 'Basta' }, /means one thing/],
			['answers', { stop: 'x'.repeat(41) }, /40 characters/],
			['files', { file: '0' }, /1 MB at least/],
			['factor', { roles: ['pirate'], idle: '4' }, /./],
			['factor', { roles: [], idle: '0' }, /at least/]
		];
		for (const [code, values, why] of wrong) {
			const came = await change(code, values);
			expect(came.ok, JSON.stringify(values)).to.equal(false);
			if (!came.ok) expect(came.why).to.match(why);
		}
		expect(await readDistrict(school.db)).to.deep.equal(before);
	});

	it('keeps what stood there, names who changed it, and goes back', async () => {
		expect(await change('sending', { load: '4', price: '0,9' })).to.deep.include({ ok: true });
		expect(await readDistrict(school.db)).to.include({ loadLimit: 4, textPartCents: 0.9 });
		await change('sending', { load: '5' });
		const view = await chapterView(school.db, await subject('sending'));
		expect(view.history.map((h) => h.changes.map((c) => `${c.before} ${c.after}`))).to.deep.equal([
			['4 5'],
			['none 0.9', '3 4']
		]);
		expect(view.history[0]!.by).to.equal('Maren Quill');
		const first = view.history[1]!.id;
		const old = await chapterView(school.db, await subject('sending'), first);
		expect(old.values.load).to.equal('3');
		await changeChapter(school.db, coordinator, await subject('sending'), old.values, old.seen);
		expect(await readDistrict(school.db)).to.include({ loadLimit: 3, textPartCents: 0 });
		const lines = await school.db.all<{ after: string }>(
			`SELECT after FROM log_line WHERE act = 'setting-changed'`
		);
		expect(lines).to.have.length(3);
		// Codes and numbers only.
		expect(Object.keys(JSON.parse(lines[0]!.after) as object)).to.deep.equal(['chapter', 'change']);
	});

	it('is refused to whoever may not, and where somebody else was first', async () => {
		expect(await change('files', { file: '10' }, office)).to.include({ ok: false });
		const { seen } = await chapterView(school.db, await subject('files'));
		const values = await standing('files');
		await change('files', { file: '10' });
		const late = await changeChapter(
			school.db,
			coordinator,
			await subject('files'),
			{ ...values, mail: '30' },
			seen
		);
		expect(late.ok).to.equal(false);
		if (!late.ok) expect(late.why).to.match(/^Maren Quill has changed this meanwhile/);
		expect(await readDistrict(school.db)).to.include({
			...{ fileLimitMegabytes: 10, mailLimitMegabytes: 25 }
		});
	});

	it('a logo is a picture of whoever chooses it, of a kind that mail programs show', async () => {
		const keep = async (ownerId: number, type: string, bytes = 900) =>
			school.db.rows(file).add({
				hash: 'a'.repeat(64),
				name: 'logo',
				type,
				bytes,
				width: 64,
				height: 32,
				ownerId,
				madeAt: 1
			});
		const [own, other] = [await keep(90, 'image/png'), await keep(91, 'image/png')];
		const why = async (logo: string) => whyOf(await change('letterhead', { logo }));
		const pictureBytes = async () => {
			const sheet = sheetOf();
			const planned = await planSheet(school.db, coordinator, sheet);
			const by = [school.db, coordinator, sheet, planned, tallyOf(planned.manifest)] as const;
			return (await wordingInput(...by)).pictureBytes;
		};
		expect(await why(`${other} 64 32`)).to.match(/not there any more/);
		expect(await why(`${own} 640 32`)).to.match(/PNG, JPEG or GIF/);
		expect(await why(`${await keep(90, 'image/webp')} 64 32`)).to.match(/PNG, JPEG or GIF/);
		expect(await why(`${await keep(90, 'image/png', 300_001)} 64 32`)).to.match(/301 kB/);
		expect(await why(`${own} 64 32`)).to.equal('done');
		expect((await readDistrict(school.db)).letterhead.logo).to.deep.equal({
			...{ fileId: own, width: 64, height: 32 }
		});
		// It counts with every email.
		expect(await pictureBytes()).to.equal(900);
		// Everybody's proofs show it; other files of theirs do not become anybody's by it.
		expect((await fileForUser(school.db, office, own))?.id).to.equal(own);
		expect(await fileForUser(school.db, office, other)).to.equal(undefined);
		expect(await why('')).to.equal('done');
		expect(await fileForUser(school.db, office, own)).to.equal(undefined);
		expect(await pictureBytes()).to.equal(0);
		// What stood there once comes back, also by somebody else's hand.
		await school.db.run('UPDATE file SET owner_id = 91 WHERE id = $id', { id: own });
		expect(await why(`${own} 64 32`)).to.equal('done');
	});

	it('families are offered the languages that are set, and keep their own', async () => {
		const offered = async (personId: number) => (await readChoices(school.db, personId)).languages;
		expect(await offered(10)).to.include.members(['en', 'es', 'pt', 'vi', 'ar']);
		expect(whyOf(await change('languages', { languages: ['en', 'fr'] }))).to.equal('done');
		await school.db.run(`UPDATE person SET language = 'vi' WHERE id = 10`);
		expect(await offered(10)).to.deep.equal(['en', 'fr', 'vi']);
		expect(await joinOffered(school.db)).to.deep.equal(['en']);
	});

	it('a number is read as in the country that is set; those that are here stay', async () => {
		const read = (typed: string) =>
			school.db
				.write((tx) => readAddress(tx, 'text', typed))
				.then((r) => ('value' in r ? r.value : r.why));
		expect(await read('207 555 0143')).to.equal('+12075550143');
		const asked = await look('district', { country: 'PT' });
		if (!asked.ok) throw new Error(asked.why);
		expect(await effectsOf(school.db, asked.before, asked.after)).to.deep.equal([
			'Numbers that are here stay as they are; those that come from now on are read so.'
		]);
		await change('district', { country: 'PT' });
		// Numbers of Portugal have nine digits (ITU-T E.164, national plan of +351).
		expect(await read('912 345 678')).to.equal('+351912345678');
		expect(await read('+1 207 555 0143')).to.equal('+12075550143');
		expect(await read('555')).to.match(/no phone number/);
	});

	const scheduled = async () => {
		const when = { kind: 'at', at: '2027-03-11T20:30' } as const;
		const sent = await schedule(
			school.db,
			key,
			coordinator,
			sheetOf({ timing: { ...usualTiming, when } }),
			5
		);
		expect(sent.ok).to.equal(true);
	};

	it('says how many copies quiet hours shift: so many rows have another time afterwards', async () => {
		await scheduled();
		const asked = await look('quiet', { mailFrom: '20:00' });
		if (!asked.ok) throw new Error(asked.why);
		const said = await effectsOf(school.db, asked.before, asked.after);
		const before = await dueAt();
		await change('quiet', { mailFrom: '20:00' });
		expect(movesScheduled(asked.before, asked.after)).to.equal(true);
		await replanAhead(school.db, key);
		const after = await dueAt();
		const moved = [...after].filter(([copy, at]) => before.get(copy) !== at).length;
		expect(after.size).to.equal(before.size);
		expect(moved).to.be.within(1, after.size - 1);
		expect(said).to.deep.equal([
			`It shifts ${moved} ${moved === 1 ? 'copy' : 'copies'} of 1 scheduled dispatch.`
		]);
		// What touches no time says nothing of it.
		const other = await look('sending', { load: '7' });
		if (other.ok) expect(await effectsOf(school.db, other.before, other.after)).to.deep.equal([]);
	});

	it('says what another zone moves, and what would be past by it', async () => {
		await scheduled();
		await followZone(school.db, key);
		const asked = await look('district', { zone: 'Pacific/Auckland' });
		if (!asked.ok) throw new Error(asked.why);
		expect(await effectsOf(school.db, asked.before, asked.after)).to.deep.equal([
			'1 scheduled dispatch moves, with 5 copies, and 0 events.'
		]);
		await change('district', { zone: 'Pacific/Auckland' });
		await replanAhead(school.db, key);
		const row = await school.db.one<{ at: number }>('SELECT leaves_at AS at FROM dispatch');
		// 8:30 pm in Auckland, which is 13 hours ahead of UTC in March (IANA, Pacific/Auckland).
		expect(new Date(row!.at).toISOString()).to.equal('2027-03-11T07:30:00.000Z');
	});

	it('says how many have no second factor yet', async () => {
		const asked = await look('factor', { roles: ['teacher'], idle: '4' });
		if (!asked.ok) throw new Error(asked.why);
		const [said] = await effectsOf(school.db, asked.before, asked.after);
		const { n } = (await school.db.one<{ n: number }>(
			`SELECT count(DISTINCT person_id) AS n FROM role WHERE role = 'teacher' AND person_id IN (SELECT person_id FROM sign_in)`
		))!;
		expect(said).to.match(new RegExp(`^${n} (person has|people have) none yet`));
	});

	it('a session that nobody uses ends, after the time that is set; what that ends now is said', async () => {
		const { token } = await school.db.write((tx) =>
			openSession(
				tx,
				90,
				{ address: '192.0.2.1', agent: '' },
				{
					...{ before: undefined, factor: 'given' }
				}
			)
		);
		const last = (hours: number) =>
			school.db.run('UPDATE session SET seen_at = $at', { at: Date.now() - hours * 3_600_000 });
		await last(3);
		expect((await sessionOf(school.db, token))!.user.personId).to.equal(90);
		await last(3);
		const asked = await look('factor', { roles: [], idle: '2' });
		if (!asked.ok) throw new Error(asked.why);
		expect(await effectsOf(school.db, asked.before, asked.after)).to.deep.equal([
			'1 session ends at once.'
		]);
		await change('factor', { roles: [], idle: '2' });
		expect(await sessionOf(school.db, token)).to.equal(null);
		expect(await sessionsOf(school.db, 90)).to.deep.equal([]);
		await last(1);
		expect(await sessionOf(school.db, token)).not.to.equal(null);
		await last(5);
		await change('factor', { roles: [], idle: '4' });
		expect(await sessionOf(school.db, token)).to.equal(null);
	});
});
