import { expect } from 'chai';
import { putRows } from '../../../../demo/put-rows';
import { makeRoster, type Roster } from '../../../../src/lib/core/roster/roster';
import { readRoster, rosterChanged } from '../../../../src/lib/server/db/roster';
import { madeDistrict } from '../../made-district';
import { freshDatabase, type FreshDatabase } from '../database';

describe('the roster as the database hands it over', () => {
	const { rows, roster: plain } = madeDistrict(3);
	let fresh: FreshDatabase;
	let read: Roster;
	before(async () => {
		fresh = await freshDatabase();
		await fresh.db.write(async (tx) => {
			await putRows(tx, rows);
			await rosterChanged(tx);
		});
		read = await readRoster(fresh.db);
	});
	after(() => fresh.close());
	const made = makeRoster(plain);
	const byId = <T extends { id: number }>(list: readonly T[]) =>
		[...list].sort((a, b) => a.id - b.id);
	const sorted = (ids: readonly number[]) => [...ids].sort((a, b) => a - b);

	it('is what the core makes of the same rows, person by person', () => {
		for (const { id } of plain.people) {
			expect(read.person(id), `person ${id}`).to.deep.equal(made.person(id));
			expect(byId(read.addressesOf(id)), `addresses of ${id}`).to.deep.equal(
				byId(made.addressesOf(id))
			);
			const contacts = (r: Roster) => [...r.contactsOf(id)].sort((a, b) => a.personId - b.personId);
			expect(contacts(read), `contacts of ${id}`).to.deep.equal(contacts(made));
			expect(byId(read.sectionsOf(id)), `sections of ${id}`).to.deep.equal(
				byId(made.sectionsOf(id))
			);
			expect(sorted(read.householdsOf(id)), `homes of ${id}`).to.deep.equal(
				sorted(made.householdsOf(id))
			);
			for (const kind of ['announcement', 'message'] as const) {
				for (const way of ['email', 'inbox'] as const) {
					expect(read.declines(id, kind, way)).to.equal(made.declines(id, kind, way));
				}
			}
		}
	});

	it('and section by section, school by school, group by group', () => {
		for (const { id } of plain.sections) {
			expect(sorted(read.studentsIn(id)), `section ${id}`).to.deep.equal(
				sorted(made.studentsIn(id))
			);
			expect(read.staffOf(id)).to.deep.equal(made.staffOf(id));
		}
		for (const [id] of rows.school) {
			expect(sorted(read.studentsOfSchool(id))).to.deep.equal(sorted(made.studentsOfSchool(id)));
		}
		for (const [id] of rows.school_group) {
			expect(sorted(read.studentsOfGroup(id))).to.deep.equal(sorted(made.studentsOfGroup(id)));
		}
		const roles = (r: Roster) =>
			r
				.staffRoles()
				.map((s) => JSON.stringify(s))
				.sort();
		expect(roles(read).map((s) => JSON.parse(s) as object)).to.have.deep.members(
			roles(made).map((s) => JSON.parse(s) as object)
		);
	});
});
