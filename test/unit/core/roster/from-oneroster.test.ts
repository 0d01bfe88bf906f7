import { expect } from 'chai';
import { nextTurn, termOf, thingsOf } from '../../../../src/lib/core/roster/from-oneroster';
import { keyOf } from '../../../../src/lib/core/roster/things';
import {
	bookOf,
	classLine,
	enrollmentLine,
	ground,
	session,
	userLine,
	type SomeLines
} from '../format/oneroster/books';

const today = '2027-03-09';
const made = (lines: SomeLines, day = today) => thingsOf(bookOf({ ...ground, ...lines }), day);

describe('the roster that a OneRoster book comes to', () => {
	it('a course of the district is one in each school where it is taught; what nothing uses is not there', () => {
		const things = made({
			orgs: [...ground.orgs!, { id: 'reef', name: 'Reef', type: 'school' }],
			academicSessions: [
				...ground.academicSessions!,
				session('spring', '2027-03-22', '2027-06-19')
			],
			classes: [classLine('1-A'), classLine('1-B', { school: 'reef' }), classLine('1-C')]
		});
		expect([...things.course.values()].map((c) => c.school)).to.deep.equal(['heron', 'reef']);
		expect([...things.term.keys()]).to.deep.equal(['winter']);
		expect([...things.school.keys()]).to.deep.equal(['heron', 'reef']);
		expect(things.section.get('1-B')).to.deep.equal({
			course: keyOf('boats', 'reef'),
			term: 'winter',
			name: '1-B',
			period: ''
		});
	});

	it('a class in several sessions is in the nearest that holds them all, else in the longest', () => {
		const sessions = new Map(
			[
				session('year', '2026-09-01', '2027-06-19'),
				session('s1', '2026-09-01', '2027-01-22', 'year'),
				session('q1', '2026-09-01', '2026-11-06', 's1'),
				session('q2', '2026-11-06', '2027-01-22', 's1'),
				session('q3', '2027-01-22', '2027-04-01', 'year'),
				session('camp', '2027-07-01', '2027-07-09')
			].map((s) => [s.id, s])
		);
		const term = (...ids: string[]) => termOf(ids, sessions)?.id;
		expect(term('q1')).to.equal('q1');
		expect(term('q1', 'q2')).to.equal('s1');
		expect(term('q2', 'q3')).to.equal('year');
		expect(term('q1', 's1')).to.equal('s1');
		expect(term('q1', 'camp')).to.equal('q1');
		expect(term('nowhere')).to.equal(undefined);
	});

	// OneRoster 1.1 section 4.9 (enrollments): the begin date is in, the end date is not.
	it('who is enrolled is judged by the day, and outside the term by its nearest', () => {
		const days = (beginDate: string | null, endDate: string | null, day: string) =>
			made(
				{
					users: [userLine('a')],
					enrollments: [enrollmentLine('1-A', 'a', { beginDate, endDate })]
				},
				day
			).enrolment.size;
		expect(days(null, null, today)).to.equal(1);
		expect(days('2027-03-09', null, today)).to.equal(1);
		expect(days('2027-03-10', null, today)).to.equal(0);
		expect(days(null, '2027-03-09', today)).to.equal(0);
		expect(days(null, '2027-03-10', today)).to.equal(1);
		// Before the term its first day counts, after it its last.
		expect(days('2026-12-01', '2027-03-22', '2026-10-01')).to.equal(1);
		expect(days('2026-12-01', '2027-03-22', '2027-05-01')).to.equal(1);
		expect(days('2026-12-01', '2027-03-21', '2027-05-01')).to.equal(0);
		expect(days('2026-12-02', null, '2026-10-01')).to.equal(0);
	});

	it('the next day on which something begins or ends', () => {
		const book = bookOf({
			...ground,
			users: [userLine('a')],
			enrollments: [enrollmentLine('1-A', 'a', { beginDate: '2027-03-09', endDate: '2027-03-15' })]
		});
		expect(nextTurn(book, '2027-03-08')).to.equal('2027-03-09');
		expect(nextTurn(book, '2027-03-09')).to.equal('2027-03-15');
		expect(nextTurn(book, '2027-03-15')).to.equal('2027-03-22');
		expect(nextTurn(book, '2027-03-22')).to.equal(null);
	});

	it('ties students to adults whichever of them names the other, and says of the tie what the role says', () => {
		const things = made({
			users: [
				userLine('ana', { agents: ['mo', 'tia', 'teach', 'rui'] }),
				userLine('rui'),
				userLine('mo', { role: 'parent' }),
				userLine('tia', { role: 'relative' }),
				userLine('teach', { role: 'teacher' }),
				userLine('opa', { role: 'guardian', agents: ['rui', 'mo'] })
			]
		});
		expect([...things.contact.values()]).to.deep.equal([
			{ student: 'ana', person: 'mo', relation: 'parent', guardian: true },
			{ student: 'ana', person: 'tia', relation: 'relative', guardian: false },
			// A teacher who is named as an agent is a parent as well (1.1 section 4.13.1).
			{ student: 'ana', person: 'teach', relation: 'guardian', guardian: true },
			{ student: 'rui', person: 'opa', relation: 'guardian', guardian: true }
		]);
		expect([...things.staffRole.values()]).to.deep.equal([
			{ person: 'teach', school: 'heron', role: 'teacher' }
		]);
	});

	it('students with the same guardians are one home; one without any has their own', () => {
		const things = made({
			users: [
				userLine('b', { agents: ['m', 'f'] }),
				userLine('a', { agents: ['f', 'm'] }),
				userLine('c', { agents: ['m'] }),
				userLine('d'),
				userLine('m', { role: 'parent', familyName: 'Pham' }),
				userLine('f', { role: 'parent' })
			]
		});
		const homes = [...things.household.keys()].map((home) => [
			home,
			[...things.householdMember.values()].filter((l) => l.household === home).map((l) => l.person)
		]);
		expect(homes).to.deep.equal([
			['a', ['a', 'b', 'f', 'm']],
			['c', ['c', 'm']],
			['d', ['d']]
		]);
		expect(things.household.get('a')!.name).to.equal('Amaro and Pham');
	});

	it('1.2: roles have lines of their own, from a day to another', () => {
		const role = (id: string, user: string, role: string, org: string, more = {}) => ({
			...{ id, user, role, org, primary: true, beginDate: null, endDate: null },
			...more
		});
		const apart = { role: null, orgs: [] };
		const things = made({
			users: [userLine('a', apart), userLine('t', apart), userLine('old', apart)],
			roles: [
				role('1', 'a', 'student', 'heron'),
				role('2', 't', 'siteAdministrator', 'heron'),
				role('3', 't', 'districtAdministrator', 'district', { primary: false }),
				role('4', 'old', 'teacher', 'heron', { endDate: today })
			]
		});
		expect([...things.person.values()].map((p) => [p.givenName, p.kind, p.school])).to.deep.equal([
			['a', 'student', 'heron'],
			['t', 'adult', undefined]
		]);
		expect([...things.staffRole.values()].map((p) => [p.role, p.school])).to.deep.equal([
			['administrator', 'heron'],
			['district administrator', null]
		]);
	});

	it('teachers and aides look after a section; of an adult enrolled as a student nothing is made', () => {
		const things = made({
			users: [userLine('t', { role: 'teacher' }), userLine('h', { role: 'aide' })],
			enrollments: [
				enrollmentLine('1-A', 't', { role: 'teacher' }),
				enrollmentLine('1-A', 'h', { role: 'aide' }),
				enrollmentLine('1-A', 'h', { id: 'x', role: 'proctor' }),
				enrollmentLine('1-A', 't', { id: 'y', role: 'student' })
			]
		});
		expect([...things.sectionStaff.values()].map((t) => t.person)).to.deep.equal(['t', 'h']);
		expect(things.enrolment.size).to.equal(0);
	});
});
