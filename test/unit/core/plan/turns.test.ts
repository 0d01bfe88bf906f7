import { expect } from 'chai';
import {
	stepsOf,
	stepTimes,
	turnsInUse,
	turnsSchema,
	turnsWords,
	type Turn
} from '../../../../src/lib/core/plan/turns';
import { byWays } from '../../../../src/lib/core/plan/handling';
import { planManifest } from '../../../../src/lib/core/plan/plan-manifest';
import { audienceOf } from '../../../../src/lib/core/audience/audience';
import { familyRoster } from '../fixture';

const zone = 'America/New_York';
const at = (iso: string) => Date.parse(iso);
const textBy = (time: string): Turn => ({ ways: ['text'], after: { kind: 'time', time } });
const after = (way: Turn['ways'][number], minutes: number): Turn => ({
	ways: [way],
	after: { kind: 'minutes', minutes }
});

describe('ways in turn', () => {
	it('are said as a sentence', () => {
		expect(turnsWords(['email', 'text', 'inbox'], [textBy('17:00')])).to.equal(
			'email and inbox first; text to those who have not read by 5:00 pm'
		);
		expect(turnsWords(['email', 'text'], [after('text', 120)])).to.equal(
			'email first; text to those who have not read within 2 h'
		);
		expect(turnsWords(['email', 'text'], [])).to.equal('email and text');
	});

	it('come to nothing for ways that are not chosen, or where no way would go first', () => {
		expect(turnsInUse([textBy('17:00')], ['email', 'inbox'])).to.deep.equal([]);
		expect(turnsInUse([textBy('17:00')], ['text'])).to.deep.equal([]);
		expect(stepsOf([])).to.deep.equal({ email: 0, text: 0, inbox: 0 });
	});

	it('hold each way once, two turns at most, and only times that there are', () => {
		for (const bad of [
			[textBy('17:00'), textBy('18:00')],
			[textBy('24:00')],
			[after('text', 1)],
			[after('text', 60), after('email', 60), after('inbox', 60)],
			[{ ways: [], after: { kind: 'minutes', minutes: 60 } }]
		]) {
			expect(turnsSchema.safeParse(bad).success, JSON.stringify(bad)).to.equal(false);
		}
	});

	it('come at the next such local time, also over the night when clocks change', () => {
		const times = (leaves: string, turns: Turn[]) =>
			stepTimes(at(leaves), turns, zone)
				.slice(1)
				.map((t) => new Date(t).toISOString());
		expect(times('2027-03-09T15:00:00Z', [textBy('17:00')])).to.deep.equal([
			'2027-03-09T22:00:00.000Z'
		]);
		expect(times('2027-03-09T22:00:00Z', [textBy('17:00')])).to.deep.equal([
			'2027-03-10T22:00:00.000Z'
		]);
		// On March 14, 2027 clocks go forward: 5 pm is an hour earlier in UTC.
		expect(times('2027-03-13T23:00:00Z', [textBy('17:00')])).to.deep.equal([
			'2027-03-14T21:00:00.000Z'
		]);
		// A turn never comes before the one before it.
		expect(times('2027-03-09T15:00:00Z', [after('text', 600), after('email', 60)])).to.deep.equal([
			'2027-03-10T01:00:00.000Z',
			'2027-03-10T01:00:00.000Z'
		]);
	});

	it('give each person their first usable way at once', () => {
		const steps = stepsOf([after('text', 60), after('inbox', 120)]);
		const { copies } = planManifest(
			familyRoster,
			audienceOf([100, 101]),
			byWays(['email', 'text', 'inbox'], { steps })
		);
		for (const person of new Set(copies.map((c) => c.personId))) {
			const mine = copies.filter((c) => c.personId === person);
			expect(Math.min(...mine.map((c) => c.step)), `person ${person}`).to.equal(0);
			for (const c of mine.filter((m) => m.step > 0)) expect(c.step).to.equal(steps[c.way]);
		}
	});
});
