import { expect } from 'chai';
import { openAccount } from '../../../../src/lib/server/access/accounts';
import { audienceOf, type Audience } from '../../../../src/lib/core/audience/audience';
import { wordingOf, wordingSchema } from '../../../../src/lib/core/copy/words';
import type { User } from '../../../../src/lib/server/access/user';
import { rosterChanged } from '../../../../src/lib/server/db/roster';
import {
	addClosure,
	closureLines,
	dropClosure
} from '../../../../src/lib/server/desk/calendar/closures';
import { saveDraft } from '../../../../src/lib/server/desk/sheet/draft';
import { keepFile } from '../../../../src/lib/server/desk/sheet/files';
import { keepAudience } from '../../../../src/lib/server/desk/audience/kept';
import { failingAddresses } from '../../../../src/lib/server/desk/people/mend';
import { sendProof } from '../../../../src/lib/server/desk/plan/proof';
import { roundViews } from '../../../../src/lib/server/desk/calendar/round-view';
import { schedule } from '../../../../src/lib/server/desk/send/schedule';
import { sentenceOf } from '../../../../src/lib/server/desk/audience/sentence';
import { usualCopies } from '../../../../src/lib/server/desk/sheet/sheet';
import { landing, namesBehind } from '../../../../src/lib/server/desk/plan/tally';
import { as, coordinator, sheetOf, teacher, testSchool, type TestSchool } from '../database';
import { manifestView } from '../../../../src/lib/server/desk/plan/manifest-view';
import { addressList, manifestCsv } from '../../../../src/lib/server/desk/plan/manifest-files';

const key = Buffer.alloc(32, 7);
/** The smallest picture there is: one dot. */
const dot = Buffer.from(
	'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
	'base64'
);
/** The office of the teacher's school. */
const office = as({ personId: 92, name: 'Ida Brook', title: '' }, 'office', 1);

/** The teacher Chidi has section 100 with Ana and Rui; Linh and her father Bao are nobody of his. */
describe('what is not theirs', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
		await school.db.write(async (tx) => {
			await tx.run(
				`INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox) VALUES (92, 'adult', 'Ida', 'Brook', 'en', NULL, NULL, 1), (93, 'adult', 'Tam', 'Reed', 'en', NULL, NULL, 1)`
			);
			await openAccount(tx, {
				personId: 92,
				userName: 'ida',
				passwordHash: 'x',
				role: 'office',
				schoolId: 1,
				title: ''
			});
			await tx.run(`INSERT INTO staff VALUES (91, 1, 'teacher'), (93, 1, 'teacher')`);
			await tx.run(
				`INSERT INTO address (person_id, way, value, consent) VALUES (12, 'email', 'bao@harbormail.example', 'in'),
					(93, 'email', 'tam@brackwater.example', 'in'), (91, 'email', 'chidi@brackwater.example', 'in')`
			);
			await tx.run(
				`INSERT INTO school_group (id, name, kind, school_id) VALUES (50, 'Regatta', 'team', 1)`
			);
			await tx.run(`INSERT INTO group_member (group_id, person_id) VALUES (50, 1), (50, 3)`);
			await rosterChanged(tx);
		});
	});
	afterEach(() => school.close());
	const sent = async (user: User, over: Parameters<typeof sheetOf>[0]) => {
		const sheet = sheetOf({ holdMinutes: 0, ...over });
		const { tally } = await landing(school.db, user, sheet);
		const done = await schedule(school.db, key, user, sheet, tally.copies);
		if (!done.ok) throw new Error(done.checks[0]!.text);
		return done;
	};
	const own = { audience: audienceOf([100]), ways: ['email' as const] };
	const blocks = async (user: User, over: Parameters<typeof sheetOf>[0]) =>
		(await landing(school.db, user, sheetOf({ holdMinutes: 0, ...over }))).checks
			.filter((c) => c.level === 'block')
			.map((c) => c.text);

	it('a picture of somebody else is neither sent nor proved', async () => {
		const kept = await keepFile(
			school.db,
			school.folder,
			coordinator,
			'map.png',
			dot,
			'picture',
			1e6
		);
		if (!kept.ok) throw new Error(kept.why);
		const wording = wordingSchema.parse({
			...wordingOf('Map', 'x'),
			words: {
				subject: 'Map',
				body: {
					type: 'doc',
					content: [{ type: 'picture', attrs: { fileId: kept.file.id, alt: 'a map' } }]
				}
			}
		});
		expect(await blocks(coordinator, { ...own, wording })).to.deep.equal([]);
		expect((await blocks(teacher, { ...own, wording })).join()).to.match(/file|picture/i);
		const proof = await sendProof(
			{
				db: school.db,
				key,
				site: { publicUrl: 'https://x.example', returnDomain: 'x.example' }
			},
			teacher,
			{ sheet: sheetOf({ ...own, wording }), personId: 10, way: 'email' }
		);
		expect(proof.ok).to.equal(false);
		expect(!proof.ok && proof.why).to.match(/not yours to send/);
		expect(await school.db.all('SELECT 1 FROM proof')).to.deep.equal([]);
	});

	it('the name and address of a parent cannot be had by asking for a copy for information', async () => {
		const sheet = sheetOf({
			...own,
			copies: { ...usualCopies, toColleagues: [12, 93], toSender: true }
		});
		const { tally, checks } = await landing(school.db, teacher, sheet);
		expect(checks.some((c) => /Copies for information go to staff only/.test(c.text))).to.equal(
			true
		);
		const view = await manifestView(school.db, teacher, sheet, ['en']);
		const everything = [
			manifestCsv(view),
			addressList(view),
			JSON.stringify(tally),
			JSON.stringify(await namesBehind(school.db, teacher, sheet, 'informed'))
		].join();
		expect(everything).not.to.match(/Bao|Pham|bao@/);
		expect(addressList(view)).to.contain('tam@brackwater.example').and.contain('chidi@');
	});

	it('a dispatch of somebody else cannot be followed up, and says nothing of who was tried and how they read', async () => {
		const first = await sent(coordinator, {
			subject: 'Secret meeting',
			audience: audienceOf([100])
		});
		const chase = {
			...own,
			chases: first.dispatchId,
			copies: { ...usualCopies, leastTried: true }
		};
		expect((await blocks(teacher, chase)).join()).to.match(/follows up is no longer there/);
		expect((await blocks(coordinator, chase)).join()).not.to.match(/follows up/);
		// Its subject is not said either, by whatever part of an audience it is asked for.
		const asking: Audience = {
			version: 2,
			lines: [
				{
					verb: 'and',
					to: [{ kind: 'guardians' }],
					of: {
						kind: 'any',
						of: [
							{ kind: 'sections', ids: [100] },
							{ kind: 'uncovered', ids: [first.dispatchId] }
						]
					},
					only: [
						{ kind: 'outcome', dispatchId: first.dispatchId, read: false },
						{ kind: 'coming', dispatchId: first.dispatchId, is: 'unsaid' }
					]
				}
			],
			byHand: []
		};
		expect(await sentenceOf(school.db, teacher, asking)).not.to.contain('Secret');
		expect(await sentenceOf(school.db, coordinator, asking)).to.contain('Secret');
	});

	it('the name of a fixed list of somebody else is not said', async () => {
		const kept = await keepAudience(
			school.db,
			coordinator,
			'In trouble',
			'list',
			audienceOf([100])
		);
		if (!kept.ok) throw new Error(kept.why);
		const asking: Audience = {
			version: 2,
			lines: [{ verb: 'and', people: { kind: 'list', keptId: kept.id }, only: [] }],
			byHand: []
		};
		expect(await sentenceOf(school.db, teacher, asking)).not.to.contain('trouble');
		expect(await sentenceOf(school.db, coordinator, asking)).to.contain('In trouble');
		expect((await blocks(teacher, { ...own, audience: asking })).join()).to.match(
			/The fixed list #\d+ is no longer there/
		);
	});

	it('a group’s members cannot be found out by what is refused', async () => {
		const answers = async (studentId: number) => {
			const audience: Audience = {
				version: 2,
				lines: [
					{
						verb: 'and',
						to: [{ kind: 'guardians' }],
						of: {
							kind: 'all',
							of: [
								{ kind: 'groups', ids: [50] },
								{ kind: 'students', ids: [studentId] }
							]
						},
						only: []
					}
				],
				byHand: []
			};
			const { tally, checks } = await landing(school.db, teacher, sheetOf({ ...own, audience }));
			return JSON.stringify([checks.map((c) => c.text), tally.students, tally.copies]);
		};
		// Linh (3) is in the group; a fourth student who is not in it gets the same answer.
		await school.db.run(
			`INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox) VALUES (4, 'student', 'Jo', 'Reed', 'en', 1, '7', 0)`
		);
		await school.db.write((tx) => rosterChanged(tx));
		expect(await answers(3)).to.equal(await answers(4));
		// Of the whole group, the teacher's own are written to, and nothing tells how many others there are.
		const group: Audience = {
			version: 2,
			lines: [
				{ verb: 'and', to: [{ kind: 'guardians' }], of: { kind: 'groups', ids: [50] }, only: [] }
			],
			byHand: []
		};
		const { tally, checks } = await landing(
			school.db,
			teacher,
			sheetOf({ ...own, audience: group })
		);
		expect(tally.students).to.equal(1);
		expect(checks.find((c) => /only your own students/.test(c.text))?.level).to.equal('caution');
	});

	it('an office sees the addresses to mend of its families, and of what they missed only what it may see', async () => {
		const mine = await sent(office, { ...own, subject: 'From the office' });
		await sent(teacher, { ...own, subject: 'From Chidi' });
		await school.db.run(`UPDATE delivery SET state = 'failed'`);
		await school.db.run(`UPDATE dispatch SET school_id = NULL WHERE id != ${mine.dispatchId}`);
		await school.db.run(
			`UPDATE address SET failing = 'gone', failing_since = 1 WHERE person_id = 10`
		);
		const seen = (await failingAddresses(school.db, office)).addresses.flatMap((a) =>
			a.missed.map((m) => m.subject)
		);
		expect([...new Set(seen)]).to.deep.equal(['From the office']);
	});

	it('an unfinished draft is its writer’s, also where it was a date of a round', async () => {
		await school.db.run(
			`INSERT INTO round (id, sheet_key, timing, made_by, made_at) VALUES (7, 'k7', '{"when":{"kind":"now"},"ends":null,"urgent":false}', 91, 0)`
		);
		const draft = await saveDraft(
			school.db,
			teacher,
			sheetOf({ ...own, subject: 'Half a thought' }),
			null
		);
		expect(draft.ok).to.equal(true);
		await school.db.run(`UPDATE dispatch SET round_id = 7, round_key = 'a', school_id = 1`);
		const subjects = async (user: User) =>
			(await roundViews(school.db, user, { roundId: 7 })).flatMap((v) =>
				v.dates.map((d) => d.subject)
			);
		expect(await subjects(teacher)).to.deep.equal(['Half a thought']);
		expect(await subjects(coordinator)).to.deep.equal([]);
		expect(await subjects(office)).to.deep.equal([]);
	});

	it('days without school are taken out by whoever may close that school, and only if they are there', async () => {
		const day = { name: 'Storm', startsOn: '2027-03-12', lastOn: '2027-03-12' };
		await addClosure(school.db, coordinator, { ...day, schoolId: null });
		await addClosure(school.db, office, { ...day, schoolId: 1 });
		const missing = await addClosure(school.db, coordinator, { ...day, schoolId: 77 });
		expect(!missing.ok && missing.why).to.match(/no such school/i);
		const [all, one] = await closureLines(school.db);
		expect((await dropClosure(school.db, teacher, all!.id)).ok).to.equal(false);
		expect((await dropClosure(school.db, office, all!.id)).ok).to.equal(false);
		expect((await dropClosure(school.db, office, one!.id)).ok).to.equal(true);
		expect((await dropClosure(school.db, coordinator, 999)).ok).to.equal(false);
		expect(await closureLines(school.db)).to.have.length(1);
	});
});
