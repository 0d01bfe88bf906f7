import { expect } from 'chai';
import { setClock } from '../../../../../src/lib/server/clock';
import { eventOf } from '../../../../../src/lib/server/db/calendar';
import { proposalOf } from '../../../../../src/lib/server/desk/audience/of-event';
import { saveEvent } from '../../../../../src/lib/server/desk/calendar/events';
import { coordinator, testSchool, testStart, type TestSchool } from '../../database';

describe('what an event proposes', () => {
	let school: TestSchool;
	beforeEach(async () => (school = await testSchool()));
	afterEach(() => school.close());
	async function proposed(schoolIds: number[], sectionIds: number[]) {
		const saved = await saveEvent(school.db, Buffer.alloc(32, 7), coordinator, {
			...{ id: null, base: null, title: 'Launch', allDay: false, place: '' },
			...{ startsLocal: '2027-03-18T10:00', endsLocal: '2027-03-18T11:00', schoolIds, sectionIds }
		});
		if (!saved.ok) throw new Error(saved.why);
		return proposalOf(school.db, (await eventOf(school.db, saved.id))!);
	}
	const of = async (schoolIds: number[], sectionIds: number[]) => {
		const [line] = (await proposed(schoolIds, sectionIds)).audience.lines;
		return line && 'of' in line ? line.of : null;
	};

	it('the guardians of whom it concerns: schools, sections, both, or the terms that run', async () => {
		expect(await of([1], [])).to.deep.equal({ kind: 'schools', ids: [1] });
		expect(await of([], [100])).to.deep.equal({ kind: 'sections', ids: [100] });
		expect(await of([1], [100])).to.deep.equal({
			...{ kind: 'any' },
			of: [
				{ kind: 'schools', ids: [1] },
				{ kind: 'sections', ids: [100] }
			]
		});
		expect(await of([], [])).to.deep.equal({ kind: 'terms', ids: [2] });
	});

	it('reminders a week and a day before, as far as they are still to come, else an hour', async () => {
		const words = async () =>
			(await proposed([1], [])).offsets.map((o) => `${o.amount} ${o.unit} ${o.side} ${o.of}`);
		expect(await words()).to.deep.equal(['1 weeks before start', '1 days before start']);
		await setClock(school.db, testStart + 5 * 86_400_000);
		expect(await words()).to.deep.equal(['1 days before start']);
		await setClock(school.db, Date.parse('2027-03-18T08:00:00-04:00'));
		expect(await words()).to.deep.equal(['1 hours before start']);
	});
});
