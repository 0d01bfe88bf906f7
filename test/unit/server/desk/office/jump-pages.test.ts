import { expect } from 'chai';
import { chaptersOf } from '../../../../../src/lib/server/desk/office/chapters';
import { pagesNamed } from '../../../../../src/lib/server/desk/office/jump-pages';
import { as, coordinator, office, teacher } from '../../database';

describe('jumping to pages', () => {
	const names = (user: typeof coordinator, search: string) =>
		pagesNamed(user, search).map((p) => p.name);

	it('by beginnings of words, of the name first, then of what else it is called', () => {
		expect(names(coordinator, 'mail')).to.deep.equal(['Mail server']);
		expect(names(coordinator, 'pro te')).to.deep.equal(['Text provider']);
		expect(names(coordinator, 'calendar')).to.deep.equal(['Week', 'Month', 'Events and closures']);
		expect(names(coordinator, 'ÉVENTS')).to.deep.equal(['Events and closures']);
		expect(names(coordinator, 'second')).to.deep.equal([
			'Second factor and sessions',
			'Your sign-in'
		]);
		expect(names(coordinator, 'export')).to.deep.equal(['Taking everything along']);
		for (const nothing of ['', '  ', '%', 'xyzzy'])
			expect(names(coordinator, nothing)).to.deep.equal([]);
	});

	it('only to what somebody may open', () => {
		const helper = as({ personId: 97, name: 'Juno Reed', title: '' }, 'helper', 1);
		expect(names(teacher, 'roster')).to.deep.equal([]);
		expect(names(office, 'mail')).to.deep.equal([]);
		expect(names(helper, 'write')).to.deep.equal([]);
		expect(names(teacher, 'write')).to.deep.equal(['Write something new']);
		// Every chapter that is offered is found by its own name.
		for (const { name, path } of chaptersOf(coordinator))
			expect(pagesNamed(coordinator, name).map((p) => p.href)).to.include(path);
	});
});
