import { expect } from 'chai';
import { shareOf } from '../../../../src/lib/core/track/share';
import { accountOf, accountText, type AccountInput } from '../../../../src/lib/core/track/account';

const at = Date.parse('2027-03-09T15:00:00Z');
const input = (over: Partial<AccountInput> = {}): AccountInput => ({
	subject: 'Family day',
	sender: 'Maren Quill',
	audience: 'Guardians of students in Drama 7-A',
	ways: 'email and inbox',
	zone: 'America/New_York',
	firstAt: at,
	lastAt: at + 3_600_000,
	now: at + 7_200_000,
	allLeft: true,
	ended: false,
	unit: 'students',
	rule: 'adult',
	coverage: { students: 1_203, covered: 1_000, waiting: 200, unreachable: 3 },
	people: 1_500,
	byWay: [
		{ way: 'email', copies: 1_200, states: { read: 900, failed: 1, sent: 0 } },
		{ way: 'inbox', copies: 1, states: {} }
	],
	leftOut: [{ why: 'No address on file', people: 1 }],
	studentsLeft: { unreached: 2, alone: 1, out: 3 },
	takenOut: [{ why: 'but not students in Boats', students: 3 }],
	failed: [{ why: 'the mailbox is full', copies: 1 }],
	bySchool: [{ name: 'Heron Landing', ...shareOf(90, 100) }],
	growth: {
		curve: [],
		marks: [
			{ minutes: 5, count: 4 },
			{ minutes: 120, count: 1_000 }
		],
		quarter: null,
		half: null,
		threeQuarters: null
	},
	...over
});
const about = (over: Partial<AccountInput> = {}) => accountOf(input(over)).about;
const rowsOf = (key: string, over: Partial<AccountInput> = {}) =>
	accountOf(input(over)).parts.find((p) => p.key === key);

describe('an account', () => {
	it('says first how many are covered, then when, by whom, to whom, and how it is counted', () => {
		const account = accountOf(input());
		expect(account.title).to.equal('Family day');
		expect(account.sentence).to.equal(
			'1,000 of 1,203 students covered, 200 waiting, 3 cannot be reached.'
		);
		expect(account.about).to.deep.equal([
			'Guardians of students in Drama 7-A, by email and inbox.',
			'Sent by Maren Quill. Left from Tue Mar 9, 10:00 am to Tue Mar 9, 11:00 am. All copies have left; reading goes on.',
			'A student is covered when one adult written to has read.',
			'Counted Tue Mar 9, 12:00 pm.'
		]);
	});

	it('says how it stands: nothing has left, in one go, not all yet, ended', () => {
		expect(about({ firstAt: null, lastAt: null, allLeft: false })[1]).to.equal(
			'Sent by Maren Quill. Nothing has left yet. Not all copies have left yet.'
		);
		for (const lastAt of [null, at + 59_999]) {
			expect(about({ lastAt })[1]).to.match(/Left Tue Mar 9, 10:00 am\. All/);
		}
		expect(about({ lastAt: at + 60_000 })[1]).to.match(/Left from .*10:00 am to .*10:01 am\./);
		expect(about({ ended: true })[1]).to.match(/\. It has ended\.$/);
	});

	it('of a dispatch that speaks of no student counts people, and has no rule', () => {
		const account = accountOf(input({ unit: 'people' }));
		expect(account.sentence).to.match(/^1,000 of 1,203 people have read it/);
		expect(account.about).to.have.length(3);
		expect(account.about.join()).not.to.contain('covered');
	});

	it('has a row for each way, with the states there are', () => {
		expect(rowsOf('to')!.heading).to.equal('To whom: 1,500 people, 1,201 copies');
		expect(rowsOf('to')!.rows).to.deep.equal([
			{ label: 'Email', value: '1,200', note: '900 read, 1 failed' },
			{ label: 'Inbox', value: '1', note: '' }
		]);
		expect(
			rowsOf('to', { people: 1, byWay: [{ way: 'text', copies: 1, states: { read: 1 } }] })!.heading
		).to.equal('To whom: 1 person, 1 copy');
	});

	it('has who was left out, students without a copy, what failed, and each school', () => {
		expect(rowsOf('left-out')).to.deep.include({
			name: 'Not to whom, and why',
			heading: 'Not to whom, and why: 1 person',
			rows: [{ label: 'No address on file', value: '1', note: '' }]
		});
		expect(rowsOf('students')).to.deep.include({
			heading: 'Students without a copy: 6',
			rows: [
				{ label: 'Nobody could be written to', value: '2', note: '' },
				{ label: 'None of the people asked for is on file', value: '1', note: '' },
				{ label: 'but not students in Boats', value: '3', note: '' }
			]
		});
		expect(rowsOf('failed')).to.deep.include({
			heading: 'Copies that failed: 1',
			rows: [{ label: 'The mailbox is full', value: '1', note: '' }]
		});
		const [school] = rowsOf('schools')!.rows;
		expect([rowsOf('schools')!.heading, school!.label, school!.value]).to.deep.equal([
			'By school',
			'Heron Landing',
			'90 of 100'
		]);
		expect(school!.note).to.match(/%/);
	});

	it('says how reading grew, the last mark being now', () => {
		expect(rowsOf('growth')!.rows).to.deep.equal([
			{ label: 'After 5 min', value: '4 of 1,203', note: '' },
			{ label: 'At this count', value: '1,000 of 1,203', note: '' }
		]);
	});

	it('leaves away what says nothing', () => {
		const empty = accountOf(
			input({
				byWay: [],
				leftOut: [],
				studentsLeft: { unreached: 0, alone: 0, out: 0 },
				takenOut: [],
				failed: [],
				bySchool: [],
				growth: null
			})
		);
		expect(empty.parts).to.deep.equal([]);
		const one = rowsOf('students', {
			studentsLeft: { unreached: 0, alone: 1, out: 0 },
			takenOut: []
		});
		expect(one!.rows).to.have.length(1);
	});

	it('is plain paragraphs in a letter: the sentence, what it is about, then part by part', () => {
		const text = accountText(
			accountOf(input({ growth: null, bySchool: [], takenOut: [], failed: [] }))
		);
		expect(text.split('\n\n')).to.have.length(5);
		expect(text).to.match(/^1,000 of 1,203 students covered.*\.\n\nGuardians of students/);
		expect(text).to.contain(
			'To whom: 1,500 people, 1,201 copies\n- Email: 1,200 (900 read, 1 failed)\n- Inbox: 1\n\nNot to whom'
		);
	});
});
