import { expect } from 'chai';
import { bookAfter, emptyBook } from '../../../../../src/lib/core/format/oneroster/book';
import { faultText } from '../../../../../src/lib/core/format/oneroster/fault';
import { lookUp } from '../../../../../src/lib/core/format/oneroster/look-up';
import { bookOf, cameOf, classLine, enrollmentLine, ground, session, userLine } from './books';

const said = (faults: ReturnType<typeof lookUp>['faults']) =>
	faults.map((f) => `${f.file} ${f.line}: ${faultText(f)}`);

describe('a book after files came', () => {
	const before = bookOf({ ...ground, users: [userLine('a'), userLine('b')] });

	it('a whole file takes the place of what was said; a thing whose line stays out is as it was', () => {
		const after = bookAfter(
			before,
			cameOf({ users: [userLine('c')] }, 'bulk', { users: { out: [['b', 9]] } })
		);
		expect([...after.users.keys()]).to.deep.equal(['c', 'b']);
		expect(after.orgs).to.equal(before.orgs);
	});

	it('a file of changes adds, changes and takes', () => {
		const after = bookAfter(
			before,
			cameOf({ users: [userLine('c'), userLine('b', { grade: '05' })] }, 'delta', {
				users: { gone: ['a', 'z'] }
			})
		);
		expect([...after.users.values()].map((u) => [u.id, u.grade])).to.deep.equal([
			['b', '05'],
			['c', null]
		]);
	});
});

describe('what lines name in each other', () => {
	it('all of it there: nothing is wrong', () => {
		const { book, faults } = lookUp(
			emptyBook(),
			cameOf({
				...ground,
				users: [userLine('a', { agents: ['m'] }), userLine('m', { role: 'parent' })],
				enrollments: [enrollmentLine('1-A', 'a')]
			})
		);
		expect(faults).to.deep.equal([]);
		expect(book.enrollments.size).to.equal(1);
	});

	it('what names nothing stays out, and what names that one then too', () => {
		const { book, faults } = lookUp(
			emptyBook(),
			cameOf({
				...ground,
				classes: [classLine('1-A'), classLine('1-B', { course: 'kelp' })],
				users: [userLine('a'), userLine('x', { orgs: ['nowhere'] })],
				enrollments: [
					enrollmentLine('1-A', 'S-4410'),
					enrollmentLine('1-B', 'a'),
					enrollmentLine('1-A', 'x')
				]
			})
		);
		expect(said(faults)).to.deep.equal([
			'classes 3: courseSourcedId names “kelp”, which is in no line of courses.csv.',
			'users 3: orgSourcedIds names “nowhere”, which is in no line of orgs.csv.',
			'enrollments 2: userSourcedId names “S-4410”, which is in no line of users.csv.',
			'enrollments 3: classSourcedId names “1-B”, whose own line stays out (classes.csv, line 3).',
			'enrollments 4: userSourcedId names “x”, whose own line stays out (users.csv, line 3).'
		]);
		expect([book.classes.size, book.users.size, book.enrollments.size]).to.deep.equal([1, 1, 0]);
	});

	it('a class at what is no school, and without any term that is there', () => {
		const { faults } = lookUp(
			emptyBook(),
			cameOf({
				...ground,
				classes: [
					classLine('1-A', { school: 'district' }),
					classLine('1-B', { terms: ['spring'] }),
					classLine('1-C', { terms: ['winter', 'spring'] })
				]
			})
		);
		expect(said(faults)).to.deep.equal([
			'classes 2: schoolSourcedId names “district”, which is a district and no school.',
			'classes 3: termSourcedIds names “spring”, which is in no line of academicSessions.csv.',
			'classes 4: termSourcedIds names “spring”, which is in no line of academicSessions.csv. The rest of the line comes in.'
		]);
	});

	it('sessions whose parents go round in a circle, or are not there, come in without them', () => {
		const { book, faults } = lookUp(
			emptyBook(),
			cameOf({
				academicSessions: [
					session('a', '2026-09-01', '2027-06-01', 'b'),
					session('b', '2026-09-01', '2027-06-01', 'c'),
					session('c', '2026-09-01', '2027-06-01', 'a'),
					session('d', '2026-09-01', '2027-06-01', 'a'),
					session('e', '2026-09-01', '2027-06-01', 'gone')
				]
			})
		);
		expect(said(faults)).to.deep.equal([
			'academicSessions 2: Its parents go round in a circle: a, b, c, a. The rest of the line comes in.',
			'academicSessions 3: Its parents go round in a circle: b, c, a, b. The rest of the line comes in.',
			'academicSessions 4: Its parents go round in a circle: c, a, b, c. The rest of the line comes in.',
			'academicSessions 6: parentSourcedId names “gone”, which is in no line of academicSessions.csv. The rest of the line comes in.'
		]);
		expect(book.academicSessions.get('d')!.parent).to.equal('a');
	});

	it('a known thing whose new line names nothing is as it was', () => {
		const known = bookOf({ ...ground, users: [userLine('a')] });
		const { book } = lookUp(
			known,
			cameOf({ classes: [classLine('1-A', { course: 'kelp', title: 'Kelp' })] })
		);
		expect(book.classes.get('1-A')!.title).to.equal('1-A');
	});

	it('a delta names what only an earlier file has said', () => {
		const known = bookOf({ ...ground, users: [userLine('a')] });
		const { faults, book } = lookUp(
			known,
			cameOf({ enrollments: [enrollmentLine('1-A', 'a')] }, 'delta')
		);
		expect(faults).to.deep.equal([]);
		expect(book.enrollments.size).to.equal(1);
	});

	it('agents that are nobody are left out of the line; a person without any role (1.2) is said', () => {
		const { faults, book } = lookUp(
			emptyBook(),
			cameOf({
				...ground,
				users: [
					userLine('a', { role: null, orgs: [], agents: ['m', 'nobody'] }),
					userLine('m', { role: null, orgs: [] })
				],
				roles: [
					{
						id: 'r1',
						user: 'a',
						role: 'student',
						primary: true,
						org: 'heron',
						beginDate: null,
						endDate: null
					}
				]
			})
		);
		expect(said(faults)).to.deep.equal([
			'users 2: agentSourcedIds names “nobody”, which is in no line of users.csv. The rest of the line comes in.',
			'users 3: The person has no role at any school or the district.'
		]);
		expect(book.users.get('a')!.agents).to.deep.equal(['m']);
	});
});
