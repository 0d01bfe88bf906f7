import { expect } from 'chai';
import { simpleParser } from 'mailparser';
import { messageId } from '../../../../../src/lib/server/access/tokens';
import { copyLetter } from '../../../../../src/lib/server/desk/leaving/copy-letter';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { as, coordinator, sheetOf, testSchool, type TestSchool } from '../../database';

const key = Buffer.alloc(32, 8);

describe('one letter as a file', () => {
	let school: TestSchool;
	let dispatchId: number;
	beforeEach(async () => {
		school = await testSchool();
		const sheet = sheetOf({ subject: '{{student}}: boats' });
		const done = await schedule(school.db, key, coordinator, sheet, 5);
		if (!done.ok) throw new Error(JSON.stringify(done));
		dispatchId = (await school.db.one<{ id: number }>('SELECT id FROM dispatch'))!.id;
	});
	afterEach(() => school.close());
	const copyBy = async (way: string) =>
		(await school.db.one<{ id: number; nonce: string; address: string | null; personId: number }>(
			`SELECT id, nonce, address, person_id AS personId FROM delivery WHERE way = $way ORDER BY id`,
			{ way }
		))!;
	const letterOf = (id: number, user = coordinator, of = dispatchId) =>
		copyLetter(
			{
				...{ db: school.db, key, dataFolder: school.folder },
				...{ publicUrl: 'https://courier.example', returnDomain: 'returns.example' }
			},
			...([user, of, id] as const)
		);

	it('is there when it has left, with the Message-ID it left with (RFC 5322 section 3.6.4) and no private link', async () => {
		const email = await copyBy('email');
		expect(await letterOf(email.id)).to.equal(null);
		await school.db.run('UPDATE delivery SET left_at = 1804950000000');
		const mail = await simpleParser((await letterOf(email.id))!);
		expect(mail.messageId).to.equal(messageId(key, 'return', email, 'returns.example'));
		expect(mail.subject).to.match(/: boats$/);
		expect(mail.date!.getTime()).to.equal(1804950000000);
		expect(JSON.stringify(mail.to)).to.contain(email.address);
		expect(`${mail.html}${mail.text}`).not.to.contain('/f/').and.not.contain('/stop');
		expect(mail.text).to.contain('The boat is late.');
	});

	it('of the inbox has an address that leads nowhere (RFC 2606 section 2)', async () => {
		const inbox = await copyBy('inbox');
		await school.db.run('UPDATE delivery SET left_at = 1804950000000');
		const mail = await simpleParser((await letterOf(inbox.id))!);
		expect(JSON.stringify(mail.to)).to.contain(`reader-${inbox.personId}@inbox.invalid`);
	});

	it('is nothing to whoever may not see the dispatch, and no other dispatch’s', async () => {
		const email = await copyBy('email');
		await school.db.run('UPDATE delivery SET left_at = 1804950000000');
		const stranger = as({ personId: 77, name: 'Nobody', title: '' }, 'teacher', 1);
		expect(await letterOf(email.id, stranger)).to.equal(null);
		expect(await letterOf(email.id, coordinator, dispatchId + 1)).to.equal(null);
		expect(await letterOf(email.id + 10_000)).to.equal(null);
	});
});
