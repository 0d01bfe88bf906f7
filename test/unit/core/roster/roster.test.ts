import { expect } from 'chai';
import { nameOf, relationPhrase } from '../../../../src/lib/core/roster/relation';
import { fullName, knownAddress, makeRoster } from '../../../../src/lib/core/roster/roster';
import { adult, email, family, phone, student } from '../fixture';

describe('the roster, looked up', () => {
	const roster = () =>
		makeRoster({
			...family,
			people: [
				...family.people,
				{ ...student(4, 'Noor'), schoolId: 2, gradeLevel: '8' },
				{ ...adult(14, 'Teo'), schoolId: 1, gradeLevel: '7' }
			],
			groupMembers: [...family.groupMembers, { groupId: 50, personId: 14 }],
			enrolments: [...family.enrolments, { sectionId: 999, studentId: 2 }],
			sections: [
				...family.sections,
				{ id: 102, courseId: 1, schoolId: 1, termId: 3, name: 'Mathematics 7-A' }
			]
		});

	it('has what is exchanged bit by bit as if it had been read so, also after thousands', () => {
		let r = roster();
		const last = new Map<number, string>();
		for (let i = 0; i < 5_000; i += 1) {
			const id = 10 + (i % 2_500);
			const value = `n${i}@harbormail.example`;
			last.set(id, value);
			r = r.withOwn([id], {
				...{ people: [], declined: [], ownTimes: [] },
				addresses: [email(id, value)]
			});
		}
		r = r.withOwn([10], { people: [], addresses: [], declined: [], ownTimes: [] });
		last.delete(10);
		for (let id = 1; id < 2_600; id += 1) {
			const own = last.get(id);
			const before =
				id < 10
					? roster()
							.addressesOf(id)
							.map((a) => a.value)
					: [];
			expect(r.addressesOf(id).map((a) => a.value)).to.deep.equal(own ? [own] : before);
		}
	});

	it('has students by school, grade, group and section: nobody who is none', () => {
		const r = roster();
		expect(r.studentsOfSchool(1)).to.deep.equal([1, 2, 3]);
		expect(r.studentsOfSchool(2)).to.deep.equal([4]);
		expect(r.studentsOfGrade('8')).to.deep.equal([4]);
		expect(r.studentsOfGrade('7')).to.deep.equal([1, 2, 3]);
		expect(r.studentsOfGroup(50)).to.deep.equal([2, 3]);
		expect(r.studentsIn(101)).to.deep.equal([1, 2, 3]);
		for (const none of [
			r.studentsOfSchool(9),
			r.studentsOfGrade('K'),
			r.studentsOfGroup(9),
			r.studentsIn(9),
			r.sectionsOfCourse(9),
			r.sectionsOfTerm(9),
			r.staffOf(9),
			r.householdsOf(9),
			r.contactsOf(9),
			r.addressesOf(9),
			r.sectionsOf(9)
		]) {
			expect(none).to.deep.equal([]);
		}
	});

	it('has sections by course, term and student, and none that does not exist', () => {
		const r = roster();
		const ids = (list: readonly { id: number }[]) => list.map((s) => s.id);
		expect(ids(r.sectionsOfCourse(1))).to.deep.equal([100, 102]);
		expect(ids(r.sectionsOfTerm(3))).to.deep.equal([102]);
		expect(ids(r.sectionsOf(1))).to.deep.equal([100, 101]);
		expect(ids(r.sectionsOf(2))).to.deep.equal([101]);
		expect(r.section(101)!.name).to.equal('Drama 7-A');
		expect(r.section(999)).to.equal(undefined);
	});

	it('has people with what ties them: contacts, staff, homes, jobs', () => {
		const r = roster();
		expect(r.person(10)!.givenName).to.equal('Delfina');
		expect(r.contactsOf(1).map((c) => c.personId)).to.include.members([10, 11]);
		expect(r.staffOf(101)).to.deep.equal([14]);
		expect(r.householdsOf(1)).to.deep.equal([60, 61]);
		expect(r.householdsOf(10)).to.deep.equal([60]);
		expect(r.staffRoles()).to.deep.equal(family.staffRoles);
	});

	it('says names and relations, also of whom nobody knows', () => {
		const r = roster();
		expect(fullName({ givenName: 'Ana', familyName: '' })).to.equal('Ana');
		expect(fullName({ givenName: '', familyName: 'Amaro' })).to.equal('Amaro');
		expect(nameOf(r, 10)).to.equal('Delfina Amaro');
		expect(nameOf(r, 12_345)).to.match(/no longer|12345/i);
		expect(relationPhrase(r, 10, [1, 2])).to.equal('mother of Ana and Rui');
		expect(relationPhrase(r, 10, [1, 12_345])).to.equal('mother of Ana');
	});

	it('looks an address over once: what can be written to, and what is wrong with it', () => {
		const mail = knownAddress(email(1, ' Home@Harbormail.example '));
		expect([mail.usable, mail.key, mail.failing]).to.deep.equal([
			'Home@Harbormail.example',
			'email:home@harbormail.example',
			null
		]);
		const none = knownAddress(email(1, 'nothing'));
		expect([none.usable, none.key]).to.deep.equal(['nothing', 'email:nothing']);
		expect(none.failing).to.equal('not a mail address, it has no @');
		const bounced = knownAddress(email(1, 'a@b.example', { failing: 'the mailbox is full' }));
		expect(bounced.failing).to.equal('the mailbox is full');
		const number = knownAddress(phone(1, '(207) 555-0101'));
		expect([number.usable, number.key]).to.deep.equal(['+12075550101', 'text:+12075550101']);
		const short = knownAddress(phone(1, '555'));
		expect([short.usable, short.key]).to.deep.equal(['555', 'text:555']);
	});
});
