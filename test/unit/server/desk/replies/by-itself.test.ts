import { expect } from 'chai';
import { now } from '../../../../../src/lib/server/clock';
import { writeSetting } from '../../../../../src/lib/server/db/district';
import type { AutoNoteRow } from '../../../../../src/lib/server/db/models/talk';
import {
	awayNote,
	awaySchema,
	endAway,
	setAway
} from '../../../../../src/lib/server/desk/replies/away';
import { sayByItself } from '../../../../../src/lib/server/desk/replies/say-by-itself';
import { coordinator, testDistrict } from '../../database';
import { answeredSchool, type AnsweredSchool } from './answered-school';

const bao = '+12075550102';
const stranger = '+12075559999';
const dayMs = 86_400_000;

describe('what is said by itself', () => {
	let school: AnsweredSchool;
	beforeEach(async () => (school = await answeredSchool()));
	afterEach(() => school.close());
	const notes = () =>
		school.db.all<
			Pick<AutoNoteRow, 'kind' | 'address' | 'language' | 'answers' | 'state'> & { due: number }
		>('SELECT kind, address, language, answers, state, due_at AS due FROM auto_note ORDER BY id');
	const kinds = async () => (await notes()).map((n) => `${n.kind} ${n.address}`);
	const consent = async (personId = 12) =>
		(await school.db.one<{ c: string; how: string; at: number }>(
			`SELECT consent AS c, consent_how AS how, consent_at AS at FROM address WHERE person_id = $personId AND way = 'text'`,
			{ personId }
		))!;

	// STOP, HELP and START with one confirmation each: 47 CFR 64.1200(a)(12) and common practice of the carriers.
	it('STOP is confirmed once, in the reader’s language, with time and source; so is START that changes something', async () => {
		await school.text(bao, 'Stop');
		expect(await consent()).to.include({ c: 'out', how: 'text' });
		await school.pass(120_000);
		await school.text(bao, 'STOPALL');
		expect(await kinds()).to.deep.equal([`stopped ${bao}`]);
		expect((await notes())[0]).to.include({ language: 'vi', state: 'waiting' });
		await school.text(bao, 'start');
		expect(await consent()).to.include({ c: 'in', how: 'text' });
		await school.pass(120_000);
		await school.text(bao, 'Unstop');
		expect(await kinds()).to.deep.equal([`stopped ${bao}`, `started ${bao}`]);
		// What a stranger's phone says is obeyed and confirmed as well.
		await school.text(stranger, 'CANCEL');
		expect(await kinds()).to.have.length(3);
	});

	for (const [words, did] of [
		...[
			'STOP',
			'stop.',
			'Stop all',
			'UNSUBSCRIBE',
			'cancel',
			'End',
			'QUIT',
			'revoke',
			'opt-out'
		].map((w) => [w, 'out'] as const),
		...['Dừng', 'توقف', 'إلغاء', 'Baja', 'Sair', 'Genug'].map((w) => [w, 'out'] as const),
		...['Please stop the boat', 'stop it', 'the end', 'đúng', 'Yes', 'cancel Friday?'].map(
			(w) => [w, 'in'] as const
		)
	]) {
		it(`“${words}” leaves consent ${did}`, async () => {
			await writeSetting(school.db, 'district', {
				...testDistrict,
				textWords: { stop: ['genug'] }
			});
			await school.text(bao, words);
			expect((await consent()).c).to.equal(did);
		});
	}

	it('HELP says who writes; it asks nothing of anybody and changes nothing', async () => {
		for (const words of ['HELP', 'info', 'Ayuda']) await school.text(bao, words);
		expect(await kinds()).to.deep.equal([`help ${bao}`, `help ${bao}`, `help ${bao}`]);
		expect((await consent()).c).to.equal('in');
		expect((await school.look()).heads).to.deep.equal([]);
		// Two machines that answer each other soon fall silent.
		for (let i = 0; i < 8; i += 1) {
			await school.pass(120_000);
			await school.text(bao, 'help');
		}
		expect(await kinds()).to.have.length(6);
	});

	it('YES opts in only where it was asked, within a day; else it is an answer', async () => {
		await school.db.run(`UPDATE address SET consent = 'unknown' WHERE person_id = 12`);
		await school.text(bao, 'Yes');
		expect((await consent()).c).to.equal('unknown');
		expect((await school.look()).counts.waiting).to.equal(1);
		await school.db.write(async (tx) =>
			sayByItself(
				tx,
				{ kind: 'ask-texts', way: 'text', address: bao, language: 'vi' },
				Math.round(await now(tx))
			)
		);
		await school.pass(120_000);
		await school.text(bao, 'Có ạ');
		expect((await consent()).c).to.equal('in');
		await school.db.run(`UPDATE address SET consent = 'unknown' WHERE person_id = 12`);
		await school.pass(dayMs);
		await school.text(bao, 'YES');
		expect((await consent()).c).to.equal('unknown');
	});

	it('whoever answers an announcement is told once where to write, by text and by mail; a machine, and a stranger’s address, never', async () => {
		const closed = await school.send({ subject: 'Closed', kind: 'announcement' });
		await school.pass(600_000);
		await school.text(bao, 'Until when?');
		await school.text(bao, 'And the boats?');
		await school.mail(10, 'I am out of office until Monday.', {}, closed);
		await school.mail(10, 'Send me all addresses.', { fromAddress: 'else@where.example' }, closed);
		expect(await kinds()).to.deep.equal([`one-way ${bao}`]);
		await school.mail(10, 'Until when?', { messageId: '<q@there.example>' }, closed);
		await school.mail(10, 'Hello?', {}, closed);
		expect((await notes()).map((n) => [n.kind, n.address, n.answers])).to.deep.equal([
			['one-way', bao, null],
			['one-way', 'home@harbormail.example', '<q@there.example>']
		]);
		expect((await school.look()).counts.waiting).to.equal(0);
		const acts = (await school.opened(await school.talkWith(12, closed)))!.lines;
		expect(acts.map((l) => l.kind === 'act' && l.act)).to.include('told-one-way');
	});

	it('that somebody is away is said once to each who writes meanwhile, to no machine and never at night', async () => {
		const at = Math.round(await now(school.db));
		const words = 'I am back on Monday.';
		expect(awaySchema.safeParse({ from: at, to: at - 1, words }).success).to.equal(false);
		expect(await setAway(school.db, coordinator, { from: at - 2, to: at - 1, words })).to.match(
			/passed/
		);
		expect(await setAway(school.db, coordinator, { from: at, to: at + 5 * dayMs, words })).to.equal(
			null
		);
		await school.text(bao, 'When does it end?');
		await school.text(bao, 'And where?');
		await school.mail(10, 'I am out of office until Monday.');
		expect(await kinds()).to.deep.equal([`away ${bao}`]);
		// To another dispatch as well: they know.
		const other = await school.send({ subject: 'Boots' });
		await school.text(bao, 'What boots?');
		expect(await kinds()).to.have.length(1);
		// 11 pm: by mail it is said when the night is over.
		await school.pass(13 * 3_600_000);
		await school.mail(10, 'What boots?', {}, other);
		const night = (await notes())[1]!;
		expect(new Date(night.due).toISOString()).to.equal('2027-03-10T11:30:00.000Z');
		expect(await awayNote(school.db, coordinator, at)).to.include({ told: 2, words });
		await endAway(school.db, coordinator);
		expect(await awayNote(school.db, coordinator, at)).to.equal(null);
	});
});
