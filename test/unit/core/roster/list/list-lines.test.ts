import { expect } from 'chai';
import { faultText } from '../../../../../src/lib/core/format/oneroster/fault';
import type { ListLine } from '../../../../../src/lib/core/format/contact-list/line';
import { addListed } from '../../../../../src/lib/core/roster/list/from-list';
import type { ListField } from '../../../../../src/lib/core/roster/list/fields';
import { isGuardianBy } from '../../../../../src/lib/core/roster/list/guardians';
import { listLineReader } from '../../../../../src/lib/core/roster/list/read-list-line';
import { noThings } from '../../../../../src/lib/core/roster/things';

const read = (cells: Partial<Record<ListField, string>>) => {
	const columns = Object.keys(cells) as ListField[];
	const reader = listLineReader({ heading: columns, columns, dates: 'month-first', country: 'US' });
	const { line, wrong } = reader(columns.map((c) => cells[c]!));
	return { line, wrong: wrong.map((w) => faultText(w)) };
};
const usual = { studentNumber: '4711', name: 'Delfina Amaro', relation: 'Mother' };
const lineOf = (cells: Partial<Record<ListField, string>>): ListLine =>
	read({ ...usual, ...cells }).line!;

describe('lines of a contact list', () => {
	it('say who somebody is to a student, with what a roster has no place for', () => {
		expect(
			lineOf({
				...{ custody: 'yes', correspondence: 'Y', emergency: 'no', livesWith: 'x' },
				...{ language: 'Portuguese', email: 'Delfina@Islandpost.Example', sms: '(207) 555-0101' },
				...{ texts: 'yes', textsSince: '9/1/2026' }
			})
		).to.deep.include({
			...{ student: 'number 4711', givenName: 'Delfina', familyName: 'Amaro', relation: 'mother' },
			...{ custody: true, correspondence: true, emergency: false },
			...{ livesWith: true, language: 'pt', sms: '+12075550101', texts: 'in' },
			textsSince: '2026-09-01'
		});
		expect(lineOf({ guardian: 'yes' }).guardian).to.equal(true);
		// Who is a guardian is guessed for a new tie only: a list that does not say it changes nothing.
		expect(lineOf({})).not.to.have.any.keys('guardian');
		expect(['Mother', 'legal guardian', 'Foster parent'].map(isGuardianBy)).to.deep.equal([
			true,
			true,
			true
		]);
		expect(['aunt', 'neighbour', 'contact'].map(isGuardianBy)).to.deep.equal([false, false, false]);
		expect(lineOf({ name: 'Amaro Silva, Delfina' })).to.include({
			givenName: 'Delfina',
			familyName: 'Amaro Silva'
		});
	});

	it('an empty cell says nothing, and custody that nobody says is not made up', () => {
		const line = lineOf({ custody: '', email: '', sms: '', texts: '' });
		expect(line).not.to.have.any.keys('custody', 'email', 'sms', 'texts', 'language');
	});

	it('what is wrong is said; only what cannot be known keeps the line out', () => {
		expect(read({ ...usual, studentNumber: '' })).to.deep.equal({
			line: null,
			wrong: ['studentNumber is empty.']
		});
		expect(read({ ...usual, name: ' ' }).line).to.equal(null);
		expect(read({ ...usual, name: 'x'.repeat(10_000) }).wrong).to.deep.equal([
			'name is 10000 characters long; 200 are taken.'
		]);
		const partly = read({
			...usual,
			...{ email: 'kelp garden', sms: '12', language: 'Brackish water', custody: 'perhaps' },
			...{ texts: 'yes', textsSince: '31/31/2026' }
		});
		expect(partly.line).to.include({ givenName: 'Delfina' });
		// Of consent without a day that can be read nothing is believed.
		expect(partly.line).not.to.have.any.keys('email', 'sms', 'language', 'custody', 'texts');
		expect(partly.wrong).to.have.length(5);
		for (const words of partly.wrong) expect(words).to.match(/The rest of the line comes in\.$/);
		// A formula that a spreadsheet would run is a name like any other (OWASP, CSV injection).
		expect(lineOf({ name: "'=HYPERLINK(0)" }).familyName).to.equal('=HYPERLINK(0)');
	});

	it('lines of one number, or of one name with an address in common, are one person', () => {
		const things = noThings();
		const lines = [
			lineOf({ sms: '+12075550101' }),
			lineOf({ studentNumber: '4712', sms: '+12075550101', email: 'd@islandpost.example' }),
			lineOf({ studentNumber: '4713', email: 'D@islandpost.example' }),
			lineOf({ studentNumber: '4714' }),
			lineOf({ studentNumber: '4711', number: '9', name: 'Paulo Amaro' }),
			lineOf({ studentNumber: '4712', number: '9', name: 'Paulo Amaro', livesWith: 'yes' })
		];
		addListed(new Map(lines.map((l) => [l.id, l])), things);
		expect(
			[...things.person].map(([key, p]) => [key, p.email ?? null, p.sms ?? null])
		).to.deep.equal([
			['delfina amaro\nnumber 4711', 'd@islandpost.example', '+12075550101'],
			['delfina amaro\nnumber 4714', null, null],
			['number 9', null, null]
		]);
		expect(things.contact.size).to.equal(6);
		expect([...things.householdMember.values()].map((m) => m.person)).to.deep.equal([
			'number 4712',
			'number 9'
		]);
	});
});
