import { expect } from 'chai';
import { clocksMark, sharedZone, zoneOf } from '../../../../src/lib/core/time/clocks';

describe('the clocks of a district and its schools', () => {
	const clocks = {
		zone: 'America/New_York',
		schools: new Map([
			[3, 'America/Halifax'],
			[4, 'America/Halifax'],
			[5, 'America/Chicago']
		])
	};

	it('a school has its own, or the district’s', () => {
		expect(zoneOf(clocks, 3)).to.equal('America/Halifax');
		expect(zoneOf(clocks, 1)).to.equal('America/New_York');
		expect(zoneOf(clocks, null)).to.equal('America/New_York');
	});

	it('what concerns several goes by the one they share, else by the district’s', () => {
		expect(sharedZone(clocks, [3, 4])).to.equal('America/Halifax');
		expect(sharedZone(clocks, [3, 5])).to.equal('America/New_York');
		expect(sharedZone(clocks, [3, 1])).to.equal('America/New_York');
		expect(sharedZone(clocks, [])).to.equal('America/New_York');
	});

	it('are the same where every clock shows the same, in whatever order they are read', () => {
		const turned = { ...clocks, schools: new Map([...clocks.schools].reverse()) };
		expect(clocksMark(turned)).to.deep.equal(clocksMark(clocks));
		expect(clocksMark({ ...clocks, zone: 'UTC' })).not.to.deep.equal(clocksMark(clocks));
		// As it is written down and read again.
		expect(JSON.parse(JSON.stringify(clocksMark(clocks)))).to.deep.equal(clocksMark(clocks));
	});
});
