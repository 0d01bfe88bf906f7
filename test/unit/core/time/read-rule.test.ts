import { expect } from 'chai';
import { DateTime } from 'luxon';
import { readRule } from '../../../../src/lib/core/time/read-rule';
import { repetitionWords } from '../../../../src/lib/core/time/rule-of';
import { timesOfRule } from '../../../../src/lib/core/time/recurrence';
import { roundDates } from '../../../../src/lib/core/time/round';
import { draws, often } from '../../random';

/** A Tuesday. */
const first = '2027-03-09T08:10';
const read = (text: string) => readRule(text, first);
const rule = (text: string): string => {
	const r = read(text);
	return r.ok ? r.rule : `no: ${r.why}`;
};
/** The dates that a repetition comes to, by the path a round takes. */
const dates = (text: string, most = 60): string[] => {
	const r = read(text);
	if (!r.ok) return [r.why];
	const start = `${r.starts ?? first.slice(0, 10)}T${r.time ?? first.slice(11)}`;
	return roundDates(
		{ first: start, rule: r.rule, offDays: 'send', except: r.except },
		'America/New_York',
		() => true,
		most
	).map((d) => d.local.slice(0, 10));
};

/** Every day of a stretch that fits, by looking at each: what the repetition must come to. */
function days(from: string, to: string, fits: (d: DateTime) => boolean): string[] {
	const list: string[] = [];
	for (let d = DateTime.fromISO(from); d <= DateTime.fromISO(to); d = d.plus({ days: 1 })) {
		if (fits(d)) list.push(d.toISODate()!);
	}
	return list;
}
const on =
	(...weekdays: number[]) =>
	(d: DateTime) =>
		weekdays.includes(d.weekday);
const nth = (d: DateTime) => Math.ceil(d.day / 7);

describe('a repetition is read whole', () => {
	// Phrases: common practice, as coordinators write them. Dates: counted day by day.
	const phrases: [string, string[]][] = [
		['every tuesday until june 11', days('2027-03-09', '2027-06-11', on(2))],
		[
			'first and third monday until june 11',
			days('2027-03-09', '2027-06-11', (d) => d.weekday === 1 && [1, 3].includes(nth(d)))
		],
		['monday to friday until 4/2', days('2027-03-09', '2027-04-02', on(1, 2, 3, 4, 5))],
		['mon wed fri until april 2', days('2027-03-09', '2027-04-02', on(1, 3, 5))],
		['tuesday & thursday until april 2', days('2027-03-09', '2027-04-02', on(2, 4))],
		[
			'every day except sunday until april 2',
			days('2027-03-09', '2027-04-02', on(1, 2, 3, 4, 5, 6))
		],
		[
			'every tuesday except april 6 until april 20',
			days('2027-03-09', '2027-04-20', (d) => d.weekday === 2 && d.toISODate() !== '2027-04-06')
		],
		['every tuesday starting april 6 until may 10', days('2027-04-06', '2027-05-10', on(2))],
		['every tuesday in april', days('2027-04-01', '2027-04-30', on(2))],
		['every tuesday and friday for 2 weeks', days('2027-03-09', '2027-03-22', on(2, 5))],
		[
			'fourth thursday of the month until june 30',
			days('2027-03-09', '2027-06-30', (d) => d.weekday === 4 && nth(d) === 4)
		],
		['every morning until march 20', days('2027-03-09', '2027-03-20', () => true)],
		['every weekend until march 31', days('2027-03-09', '2027-03-31', on(6, 7))],
		['every march 12 for 3 times', ['2027-03-12', '2028-03-12', '2029-03-12']],
		[
			'every second tuesday of the month until june 30',
			days('2027-03-09', '2027-06-30', (d) => d.weekday === 2 && nth(d) === 2)
		],
		['on school days until march 19', days('2027-03-09', '2027-03-19', on(1, 2, 3, 4, 5))],
		['from april 6 to may 10 every monday', days('2027-04-06', '2027-05-10', on(1))],
		['every friday at 3pm until the end of april', days('2027-03-09', '2027-04-30', on(5))],
		['last friday of the month, 3 times', ['2027-03-26', '2027-04-30', '2027-05-28']],
		[
			'the 1st and 15th of every month for 4 times',
			['2027-03-15', '2027-04-01', '2027-04-15', '2027-05-01']
		],
		['daily until friday', days('2027-03-09', '2027-03-12', () => true)],
		[
			'every other week on tuesday and friday until april 9',
			['2027-03-09', '2027-03-12', '2027-03-23', '2027-03-26', '2027-04-06', '2027-04-09']
		],
		['every friday until march 1', days('2027-03-09', '2028-03-01', on(5))]
	];
	for (const [text, wanted] of phrases) {
		it(text, () => expect(dates(text)).to.deep.equal(wanted.slice(0, 60)));
	}

	for (const text of [
		'every tuesday or thursday',
		'every tuesday when there is school',
		'every tuesday until june 11 for 3 times',
		'every tuesday except monday',
		'every tuesday except april 7',
		'every tuesday until june 11 2001',
		'twice a week',
		'every april',
		'every february 30',
		'the last school day of the month',
		'every evening',
		'every friday at 7',
		'every 0 days',
		'every tuesday until wednesday june 11',
		'alternate fridays'
	]) {
		it(`refuses “${text}”`, () => {
			const r = read(text);
			expect(r.ok, r.ok ? r.words : '').to.equal(false);
			expect(!r.ok && r.choices).to.deep.equal([]);
		});
	}
	it('names what it did not understand', () => {
		expect(rule('every tuesday in the gym')).to.match(/Not understood: “in the gym”\.$/);
		expect(rule('every tuesday except april 7')).to.match(
			/April 7, 2027 is not among its dates\.$/
		);
	});
	it('offers both where a person could mean either', () => {
		const r = read('every second tuesday until may 1');
		expect(!r.ok && r.choices.map((c) => c.words)).to.deep.equal([
			'every 2 weeks on Tuesday until May 1, 2027',
			'every month on the second Tuesday until May 1, 2027'
		]);
	});
	it('takes the time and the start along', () => {
		const r = read('fridays at 2:15pm starting april 2, 6 times');
		expect(r.ok && [r.time, r.starts]).to.deep.equal(['14:15', '2027-04-02']);
	});
	it('takes figures in the viewer’s order', () => {
		const r = readRule('every friday until 6/11', first, 'day-first');
		expect(r.ok && r.rule).to.contain('UNTIL=20271106');
	});
});

describe('whatever is read is said again as the same', () => {
	const r = draws(11);
	const weekdays = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'];
	function phrase(): string {
		const some = () => r.shuffle(weekdays).slice(0, r.int(1, 4));
		const often = r.pick([
			() => `every ${some().join(r.pick([', ', ' and ', ' ', '/']))}`,
			() => `every ${r.int(2, 5)} weeks on ${some().join(' and ')}`,
			() => `every ${r.int(2, 9)} days`,
			() =>
				`the ${r.pick(['first', 'second', 'third', '4th', 'last'])} and ${r.pick(['2nd', 'last'])} ${r.pick(weekdays)} of each month`,
			() => `every month on the ${r.int(1, 28)}th`,
			() => `every ${r.pick(['march', 'feb', 'december'])} ${r.int(1, 28)}`,
			() =>
				r.pick([
					'weekdays',
					'every weekend',
					'daily',
					'weekly',
					'monthly on the last day',
					'school days'
				])
		])();
		const bound = r.pick([
			() => `until ${r.pick(['june 11', '6/11/2028', '2027-12-24', 'the end of may'])}`,
			() => `for ${r.int(1, 20)} times`,
			() => `for ${r.int(2, 9)} ${r.pick(['weeks', 'months'])}`,
			() => ''
		])();
		const more = r.pick([() => 'in april and may', () => '', () => '', () => 'starting april 6'])();
		return r.shuffle([often, bound, more]).filter(Boolean).join(' ');
	}

	it('over 2,000 random phrases; a word that is none in any place of them is refused and named', () => {
		let fine = 0;
		for (let i = 0; i < often(2_000); i += 1) {
			const text = phrase();
			const one = read(text);
			if (one.ok) {
				fine += 1;
				const start = `${one.starts ?? first.slice(0, 10)}T${first.slice(11)}`;
				const again = readRule(one.words, start);
				expect(again.ok && again.rule, `${text} → ${one.words}`).to.equal(one.rule);
				expect(repetitionWords(one.rule, one.except)).to.equal(one.words);
				// It can be carried out.
				timesOfRule(one.rule, start, 'America/New_York', 3);
			}
			const words = text.split(' ');
			words.splice(r.int(0, words.length), 0, 'kelpish');
			const other = read(words.join(' '));
			expect(other.ok, words.join(' ')).to.equal(false);
			expect(!other.ok && other.why, words.join(' ')).to.match(/kelpish|cannot be read/);
		}
		expect(fine).to.be.greaterThan(often(1_500));
	});
});
