import { expect } from 'chai';
import {
	invitationChecks,
	type InvitationInput
} from '../../../../src/lib/core/plan/check-invitation';
import type { Asking } from '../../../../src/lib/core/talk/invitation-schema';

const now = Date.parse('2027-03-09T15:00:00Z');
const hour = 3_600_000;
const asks = (over: Partial<Asking> = {}): Asking => ({
	...{ kind: 'asks', until: now + 24 * hour, places: null, slots: [], most: 10, anybody: false },
	...over
});
const checks = (over: Partial<InvitationInput>) =>
	invitationChecks({
		...{ invitation: asks(), about: null, when: 'now', feed: false, standsOnly: false, people: 10 },
		...{ leavesAt: now, now, zone: 'America/New_York' },
		...over
	}).map((c) => `${c.level}: ${c.text}`);
const slot = (id: number, at: number | null, places: number | null = 2, words = '') => ({
	id,
	at,
	words,
	places
});

describe('the check of an invitation', () => {
	it('says nothing where nothing is asked, or all is well', () => {
		expect(checks({ invitation: null })).to.deep.equal([]);
		expect(checks({})).to.deep.equal([]);
		expect(checks({ invitation: asks({ slots: [slot(1, now + 30 * hour, null)] }) })).to.deep.equal(
			[]
		);
	});

	for (const [words, over] of [
		['now, or at a time', { when: 'round' }],
		['now, or at a time', { when: 'event' }],
		['goes to nobody', { standsOnly: true }],
		['not said until when', { invitation: asks({ until: null }) }],
		[
			'answered until Tue Mar 9, 11:00 am',
			{ leavesAt: now + hour, invitation: asks({ until: now + hour }) }
		],
		['neither when nor what', { invitation: asks({ slots: [slot(1, null, 1, ' ')] }) }],
		[
			'are the same',
			{ invitation: asks({ slots: [slot(1, now + 30 * hour), slot(2, now + 30 * hour)] }) }
		],
		['would be past', { invitation: asks({ slots: [slot(1, now - hour)] }) }],
		['is not there, or not yours', { invitation: { kind: 'about', dispatchId: 3 }, about: 'gone' }],
		[
			'leaves by itself',
			{ invitation: { kind: 'about', dispatchId: 3 }, about: 'asks', when: 'gain' }
		],
		[
			'leaves by itself',
			{ invitation: { kind: 'about', dispatchId: 3 }, about: 'asks', when: 'round', feed: true }
		]
	] as const)
		it(`stops it: ${words} (${JSON.stringify(over).slice(0, 60)})`, () => {
			const said = checks(over as Partial<InvitationInput>);
			expect(said.join('\n')).to.include(words);
			expect(said.some((s) => s.startsWith('block'))).to.equal(true);
		});

	it('what only stands on boards may be asked of anybody', () => {
		expect(checks({ standsOnly: true, invitation: asks({ anybody: true }) })).to.deep.equal([]);
	});

	it('two of the same hour in two rooms are two times', () => {
		const at = now + 30 * hour;
		expect(
			checks({
				people: 2,
				invitation: asks({ slots: [slot(1, at, 1, 'Room 1'), slot(2, at, 1, 'Room 2')] })
			})
		).to.deep.equal([]);
	});

	it('is to be looked at: fewer places than people, an answer after the first time, one that is over', () => {
		expect(checks({ invitation: asks({ places: 9 }) })[0]).to.match(
			/^caution: There are 9 places for 10 people/
		);
		// The least of both holds: places in the times, and over all.
		const slots = [slot(1, now + 30 * hour, 4), slot(2, now + 31 * hour, 4)];
		expect(checks({ invitation: asks({ slots, places: 6 }) })[0]).to.include('There are 6 places');
		expect(checks({ invitation: asks({ slots, places: 50 }) })[0]).to.include('There are 8 places');
		const early = asks({ until: now + 40 * hour, slots: [slot(1, now + 30 * hour, null)] });
		expect(checks({ invitation: early })[0]).to.match(
			/^caution: It can still be answered when the first time/
		);
		expect(checks({ invitation: { kind: 'about', dispatchId: 3 }, about: 'over' })[0]).to.match(
			/^caution: .*no longer/
		);
		expect(
			checks({ invitation: { kind: 'about', dispatchId: 3 }, about: 'asks', when: 'round' })
		).to.deep.equal([]);
	});
});
