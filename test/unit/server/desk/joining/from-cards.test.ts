import { expect } from 'chai';
import {
	lookAtCards,
	takeCards,
	takeCardsSchema
} from '../../../../../src/lib/server/desk/joining/from-cards';
import { joiningView } from '../../../../../src/lib/server/desk/joining/joiners';
import { takeJoinerOut } from '../../../../../src/lib/server/desk/joining/look-after';
import { joiningsWhere } from '../../../../../src/lib/server/desk/joining/rows';
import { audienceOfGroup } from '../../../../../src/lib/server/desk/audience/of-group';
import { planSheet } from '../../../../../src/lib/server/desk/plan/plan-sheet';
import { office, sheetOf, teacher, whyOf } from '../../database';
import { openSchool, within, type OpenSchool } from './open-school';

const outside = { publicUrl: 'https://x.example', returnDomain: 'return.example', smppUrl: '' };
const card = (...lines: string[]) =>
	['BEGIN:VCARD', 'VERSION:4.0', ...lines, 'END:VCARD', ''].join('\r\n');
const cards = [
	card(
		'FN:Ilse Gull',
		'EMAIL:ilse@gull.example',
		'TEL;TYPE=cell:207-555-0188',
		'CATEGORIES:kelp garden,Harbor Crew',
		'LANG:es'
	),
	// Bao is on file by this number.
	card('FN:Bao Pham', 'TEL;TYPE=cell:+12075550102', 'CATEGORIES:Harbor Crew'),
	card('FN:No Way', 'CATEGORIES:Harbor Crew'),
	card('FN:No Group', 'EMAIL:no@group.example'),
	card('FN:Bad\\, Mail', 'EMAIL:nowhere', 'CATEGORIES:Harbor Crew')
].join('');

describe('cards (vCard) become groups by what they belong to', () => {
	let school: OpenSchool;
	beforeEach(async () => (school = await openSchool()));
	afterEach(() => school.close());
	const look = async (text: string, user = office) => {
		const seen = await lookAtCards(school.db, user, Buffer.from(text));
		if (!seen.ok) throw new Error(seen.why);
		return seen;
	};
	const take = async (json: string, groups: string[], user = office) =>
		takeCards(school.db, user, takeCardsSchema.parse({ cards: json, groups }));

	it('look first: who, into which group, and what is wrong with which; nothing has changed', async () => {
		const seen = await look(cards);
		expect(seen).to.deep.include({
			...{ people: 2, known: 1 },
			groups: [
				{ name: 'Harbor Crew', people: 2, there: false },
				{ name: 'Kelp Garden', people: 1, there: true }
			]
		});
		expect(seen.wrong.map((w) => w.text)).to.deep.equal([
			'“No Way” stays out: it has no mail address or number that can be written to',
			'“No Group” stays out: it belongs to nothing (CATEGORIES)',
			'“Bad, Mail” stays out: it has no mail address or number that can be written to'
		]);
		expect(await school.db.one('SELECT 1 FROM joining')).to.equal(undefined);
	});

	it('the groups that are wanted are made, people come in and are written to; brought again, nobody comes twice', async () => {
		const { cards: json } = await look(cards);
		expect(await take(json, ['Harbor Crew'])).to.deep.include({
			ok: true,
			people: 2,
			groups: 1,
			not: []
		});
		expect(await within(school)).to.deep.equal([]);
		const done = await take(json, ['Harbor Crew', 'Kelp Garden']);
		expect(done.ok && done.not).to.deep.equal([
			'Ilse Gull (Harbor Crew): is in already',
			'Bao Pham (Harbor Crew): is in already'
		]);
		const crew = (await school.db.one<{ id: number; schoolId: number }>(
			`SELECT id, school_id AS schoolId FROM school_group WHERE name = 'Harbor Crew'`
		))!;
		expect(crew.schoolId).to.equal(1);
		const rows = await joiningsWhere(school.db, 'TRUE ORDER BY group_id, id', {});
		expect(rows.map((r) => [r.name, r.address, r.madePerson, r.language])).to.deep.equal([
			['Ilse Gull', 'ilse@gull.example', 1, 'es'],
			['Ilse Gull', 'ilse@gull.example', 1, 'es'],
			['Bao Pham', '+12075550102', 0, 'en']
		]);
		expect(rows[0]!.personId).to.equal(rows[1]!.personId);
		const view = (await joiningView(school.db, office, crew.id, outside))!;
		expect(view.lines[0]).to.include({ how: 'cards', by: 'Odile Ferro', state: 'in' });
		// A number on a card is no consent: Ilse gets an email, and no text.
		const { manifest } = await planSheet(
			school.db,
			office,
			sheetOf({ audience: await audienceOfGroup(school.db, crew.id), ways: ['email', 'text'] })
		);
		expect(manifest.copies.map((c) => [c.personId, c.way])).to.have.deep.members([
			[rows[0]!.personId, 'email'],
			[12, 'text']
		]);
	});

	it('whoever was taken out does not come back with a card; one who answered STOP is sent no text', async () => {
		await school.text('+12075550188', 'STOP');
		const { cards: json } = await look(cards);
		await take(json, ['Kelp Garden']);
		const [ilse] = await within(school);
		expect(
			await school.db.one(`SELECT consent FROM address WHERE value = '+12075550188'`)
		).to.deep.equal({ consent: 'out' });
		await takeJoinerOut(school.db, office, school.groupId, ilse!.id);
		const again = await take(json, ['Kelp Garden']);
		expect(again.ok && again.not[0]).to.contain('taken out by the office');
	});

	it('what was changed on its way is refused, and so is who may not', async () => {
		const { cards: json } = await look(cards);
		for (const bad of [
			'',
			'{}',
			'[{}]',
			json.slice(0, -1),
			json.replace('Ilse', 'Il\u202ese'),
			json.replace('ilse@gull.example', 'nowhere'),
			json.replace('+12075550188', '12'),
			json.replace('"es"', '"<b>"')
		])
			expect(takeCardsSchema.safeParse({ cards: bad, groups: ['x'] }).success, bad).to.equal(false);
		expect(takeCardsSchema.safeParse({ cards: json, groups: [] }).success).to.equal(false);
		expect(whyOf(await take(json, ['Harbor Crew'], teacher))).to.contain('school office');
		expect(whyOf(await lookAtCards(school.db, office, Buffer.from([0, 1, 2])))).to.contain(
			'no text'
		);
		expect(whyOf(await lookAtCards(school.db, office, Buffer.from('a,b')))).to.contain(
			'holds no card'
		);
		const many = card('FN:X', 'EMAIL:x@y.example', 'CATEGORIES:Z').repeat(2_001);
		expect(whyOf(await lookAtCards(school.db, office, Buffer.from(many)))).to.contain(
			'more than 2000'
		);
	});
});
