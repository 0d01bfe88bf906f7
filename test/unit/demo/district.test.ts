import { expect } from 'chai';
import { makeDistrict } from '../../../demo/district';
import { readingOf } from '../../../standin/readers/habit';

describe('the made-up district', () => {
	const d = makeDistrict(2027);
	const { rows } = d;

	it('is always the same from one seed, and another from another', () => {
		expect(JSON.stringify(makeDistrict(2027))).to.equal(JSON.stringify(d));
		expect(JSON.stringify(makeDistrict(2028))).not.to.equal(JSON.stringify(d));
	});

	it('has the size it is meant to have', () => {
		const students = rows.person.filter((p) => p[1] === 'student').length;
		expect(students).to.be.within(880, 920);
		expect(rows.person.length - students - rows.staff.length).to.be.within(1350, 1650);
		expect([
			rows.school.length,
			rows.term.length,
			rows.course.length,
			rows.staff.length
		]).to.deep.equal([3, 3, 60, 90]);
		expect(rows.section.length).to.be.within(105, 115);
		expect(new Set(rows.person.map((p) => p[4]))).to.deep.equal(
			new Set(['en', 'es', 'pt', 'vi', 'ar'])
		);
	});

	it('uses no address that could be somebody’s', () => {
		for (const [, , way, value] of rows.address) {
			expect(value).to.match(
				way === 'email' ? /^[a-z0-9.]+@[a-z.]+\.example$/ : /^\+1\d{3}55501\d{2}$/
			);
		}
	});

	it('has families as they are', () => {
		const count = (test: (c: (typeof rows.contact)[number]) => boolean) =>
			rows.contact.filter(test).length;
		expect(count(([, , , guardian, custody]) => guardian === 1 && custody === 0)).to.be.above(20);
		expect(
			count(
				([, , , guardian, custody, correspondence]) =>
					guardian === 1 && custody === 1 && correspondence === 0
			)
		).to.be.above(5);
		expect(
			count(([, , , guardian, , , emergency]) => guardian === 0 && emergency === 1)
		).to.be.above(200);
		const values = rows.address.filter((a) => a[2] === 'email').map((a) => a[3]);
		expect(values.length - new Set(values).size, 'shared mailboxes').to.be.above(15);
		const homes = new Map<number, number>();
		rows.household_member.forEach(([, p]) => homes.set(p, (homes.get(p) ?? 0) + 1));
		expect(
			[...homes.values()].filter((n) => n === 2).length,
			'students with two homes'
		).to.be.above(60);
	});
});

describe('readers', () => {
	it('do the same with the same copy, and read texts more and sooner than mail', () => {
		expect(readingOf('s', 'a@b.example', '1', 'email')).to.deep.equal(
			readingOf('s', 'a@b.example', '1', 'email')
		);
		const many = (channel: 'email' | 'text') =>
			Array.from({ length: 2000 }, (_, i) => readingOf('s', `p${i % 300}`, String(i), channel));
		const share = (channel: 'email' | 'text') => many(channel).filter((r) => r.opens).length / 2000;
		expect(share('email')).to.be.within(0.35, 0.65);
		expect(share('text')).to.be.within(0.55, 0.9);
		const middle = (channel: 'email' | 'text') =>
			many(channel)
				.map((r) => r.afterMinutes)
				.sort((a, b) => a - b)[1000]!;
		expect(middle('text')).to.be.below(middle('email'));
	});
});
