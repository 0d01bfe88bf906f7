import { expect } from 'chai';
import { familyHomes, homeKey } from '../../../../src/lib/core/audience/family-homes';
import { makeRoster } from '../../../../src/lib/core/roster/roster';
import type { Contact, HouseholdMember, Person } from '../../../../src/lib/core/roster/types';
import { adult, family, guardian, student } from '../fixture';

const lives = (householdId: number, ...people: number[]): HouseholdMember[] =>
	people.map((personId) => ({ householdId, personId }));

const homesOf = (people: Person[], contacts: Contact[], householdMembers: HouseholdMember[]) => {
	const roster = makeRoster({ ...family, people, contacts, householdMembers, addresses: [] });
	const ids = people.filter((p) => p.kind === 'student').map((p) => p.id);
	return familyHomes(roster, ids).map((h) => ({
		...{ key: homeKey(h), students: h.students, adults: h.adults, unsaid: h.unsaid }
	}));
};

describe('homes of students', () => {
	it('are households, the youngest child first, each adult where they live', () => {
		const ana = { ...student(1, 'Ana'), gradeLevel: '7' };
		const rui = { ...student(2, 'Rui'), gradeLevel: 'K' };
		const homes = homesOf(
			[ana, rui, adult(10, 'Delfina'), adult(11, 'Paulo')],
			[guardian(1, 10), guardian(2, 10), guardian(1, 11), guardian(2, 11)],
			[...lives(5, 1, 2, 10), ...lives(6, 1, 2, 11)]
		);
		expect(homes).to.deep.equal([
			{ key: 'h5', students: [2, 1], adults: [10], unsaid: [] },
			{ key: 'h6', students: [2, 1], adults: [11], unsaid: [] }
		]);
	});

	it('a student who lives in none is a home, and a guardian who lives in none counts in each', () => {
		const homes = homesOf(
			[student(1, 'Ana'), student(2, 'Rui'), adult(10, 'Delfina'), adult(11, 'Paulo')],
			[guardian(1, 10), guardian(2, 10), guardian(2, 11)],
			[...lives(5, 2, 11)]
		);
		expect(homes).to.deep.equal([
			{ key: 's1', students: [1], adults: [10], unsaid: [] },
			{ key: 'h5', students: [2], adults: [10, 11], unsaid: [] }
		]);
	});

	it('of somebody without custody is none; where there is nobody at all, one says so', () => {
		const people = [student(1, 'Ana'), adult(10, 'Delfina'), adult(11, 'Paulo')];
		const both = [...lives(5, 1, 10), ...lives(6, 1, 11)];
		expect(
			homesOf(people, [guardian(1, 10), guardian(1, 11, { custody: false })], both)
		).to.deep.equal([{ key: 'h5', students: [1], adults: [10], unsaid: [] }]);
		expect(homesOf(people, [guardian(1, 10, { correspondence: false })], both)).to.deep.equal([
			{ key: 'h5', students: [1], adults: [], unsaid: [] }
		]);
		expect(homesOf(people, [guardian(1, 11, { custody: null })], both)).to.deep.equal([
			{ key: 'h6', students: [1], adults: [], unsaid: [11] }
		]);
		// An aunt is no guardian.
		expect(homesOf(people, [guardian(1, 10, { guardian: false })], [])).to.deep.equal([
			{ key: 's1', students: [1], adults: [], unsaid: [] }
		]);
	});
});
