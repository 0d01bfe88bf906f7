import { expect } from 'chai';
import type {
	Audience,
	AudienceLine,
	StudentSet
} from '../../../../../src/lib/core/audience/audience';
import {
	keptAudience,
	keptPerson,
	dispatch,
	dispatchStudent
} from '../../../../../src/lib/server/db/models/dispatch';
import { person } from '../../../../../src/lib/server/db/models/roster';
import { isLarge } from '../../../../../src/lib/server/desk/plan/how-large';
import { testSchool, type TestSchool } from '../../database';

describe('how large an audience is, before it is worked out', () => {
	let school: TestSchool;
	const few = 3_000;
	before(async () => {
		school = await testSchool();
		const { db } = school;
		const ids = Array.from({ length: few + 1 }, (_, i) => 10_000 + i);
		// Of no school: only what names them brings them in.
		const who = { kind: 'student', familyName: 'Amaro', language: 'en', hasInbox: 0 } as const;
		await db.rows(person).addMany(ids.map((id) => ({ ...who, id, givenName: `${id}` })));
		const id = await db.rows(dispatch).add({
			...{ sheetKey: 'earlier', subject: '', body: '', audience: '{}', audienceWords: '' },
			...{ ways: '[]', holdMinutes: 0, senderId: 90, state: 'sent', changedAt: 0 }
		});
		expect(id).to.equal(1);
		await db
			.rows(dispatchStudent)
			.addMany(ids.map((studentId) => ({ dispatchId: 1, studentId, sectionId: null })));
		const kept = {
			form: 'list',
			audience: '{}',
			words: '',
			madeBy: 90,
			madeAt: 0,
			usedAt: 0
		} as const;
		expect(await db.rows(keptAudience).add({ ...kept, name: 'All' })).to.equal(1);
		await db
			.rows(keptPerson)
			.addMany(
				ids.map((personId) => ({ keptId: 1, personId, studentId: null, explicit: 0 as const }))
			);
	});
	after(() => school.close());

	const line = (of: StudentSet): AudienceLine => ({
		verb: 'and',
		to: [{ kind: 'guardians' }],
		of,
		only: []
	});
	const large = (...lines: AudienceLine[]) =>
		isLarge(school.db, { version: 2, lines, byHand: [] } satisfies Audience);
	const numbers = (n: number) => Array.from({ length: n }, (_, i) => i + 1);

	it('counts students, people by name, fixed lists, and those whom an earlier dispatch does not cover', async () => {
		expect(await large(line({ kind: 'schools', ids: [1] }))).to.equal(false);
		expect(await large(line({ kind: 'students', ids: numbers(few) }))).to.equal(false);
		expect(await large(line({ kind: 'students', ids: numbers(few + 1) }))).to.equal(true);
		const uncovered: StudentSet = { kind: 'uncovered', ids: [1] };
		expect(await large(line(uncovered))).to.equal(true);
		expect(
			await large(line({ kind: 'all', of: [uncovered, { kind: 'schools', ids: [1] }] }))
		).to.equal(true);
		const people = (of: 'list' | 'named', verb: 'and' | 'but-not' = 'and'): AudienceLine => ({
			verb,
			people:
				of === 'list' ? { kind: 'list', keptId: 1 } : { kind: 'named', ids: numbers(few + 1) },
			only: []
		});
		expect(await large(people('list'))).to.equal(true);
		expect(await large(people('named'))).to.equal(true);
	});

	it('counts nothing of what is taken out, and nobody of what is not there', async () => {
		const out = (of: StudentSet): AudienceLine => ({ ...line(of), verb: 'but-not' });
		expect(await large(out({ kind: 'students', ids: numbers(few + 1) }))).to.equal(false);
		expect(await large(line({ kind: 'uncovered', ids: [99] }))).to.equal(false);
		expect(await large()).to.equal(false);
	});

	it('is said of the largest audience that a browser may send without resolving any of it', async () => {
		// Four hundred parts, each the whole school: worked out, it would be the school four hundred times.
		const parts: StudentSet = {
			kind: 'any',
			of: Array<StudentSet>(399).fill({ kind: 'schools', ids: [1] })
		};
		expect(await large(line(parts))).to.equal(false);
	});
});
