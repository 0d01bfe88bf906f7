import { expect } from 'chai';
import {
	familyWrote,
	onlyKept,
	putAside,
	settled,
	stateAt
} from '../../../../src/lib/core/talk/conversation';

describe('how a conversation stands', () => {
	const waits = familyWrote(settled, 1_000);

	it('waits since the first that nobody has answered, and is not looked at', () => {
		expect(waits).to.deep.equal({ state: 'waiting', asideUntil: null, since: 1_000, unread: true });
		expect(familyWrote(waits, 2_000).since).to.equal(1_000);
		expect(familyWrote(settled, 3_000).since).to.equal(3_000);
	});

	it('is put aside until a time that lies ahead, half-open, and waits again then', () => {
		const put = putAside(waits, 5_000, 4_000);
		const aside = put.ok ? put.standing : waits;
		expect(aside).to.deep.equal({ state: 'aside', asideUntil: 5_000, since: 1_000, unread: false });
		expect([stateAt(aside, 4_999), stateAt(aside, 5_000)]).to.deep.equal(['aside', 'waiting']);
		expect(putAside(waits, 4_000, 4_000)).to.deep.equal({ ok: false, why: 'past' });
		expect(putAside(waits, 181 * 86_400_000, 0)).to.deep.equal({ ok: false, why: 'too-far' });
		expect(familyWrote(aside, 4_500)).to.include({ state: 'waiting', asideUntil: null });
	});

	it('keeps what asks for no answer without letting anybody wait', () => {
		expect(onlyKept(settled)).to.deep.equal({ ...settled, unread: true });
		expect(onlyKept(waits).state).to.equal('waiting');
	});
});
