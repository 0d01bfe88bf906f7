import { expect } from 'chai';
import { silenceOf, type HomePast } from '../../../../src/lib/core/track/silent';
import { unreadWords, wouldReach } from '../../../../src/lib/core/track/silent-words';

const past = (over: Partial<HomePast> = {}): HomePast => ({
	...{ hasWay: true, left: 3, arrived: 3, reached: false, ...over }
});

describe('a home that nothing reached', () => {
	it('is one for the first thing that is to be done about it', () => {
		expect(silenceOf(past({ reached: true, hasWay: false, left: 0 }))).to.equal(null);
		expect(silenceOf(past())).to.equal('not-read');
		expect(silenceOf(past({ arrived: 0 }))).to.equal('not-arrived');
		expect(silenceOf(past({ left: 0, arrived: 0 }))).to.equal('left-out');
		for (const left of [0, 3]) expect(silenceOf(past({ hasWay: false, left }))).to.equal('no-way');
	});

	it('would be reached by the best way that was not tried, else by a voice', () => {
		const all = { numbers: 1, unsaid: 0, adults: 1 };
		const open = [
			{ way: 'email', tried: true, share: 0.9 },
			{ way: 'inbox', tried: false, share: 0.34 },
			{ way: 'text', tried: false, share: 0.62 }
		] as const;
		expect(wouldReach(open, all)).to.equal('text, not tried yet: about 6 of 10 would be read');
		expect(wouldReach(open.slice(0, 2), all)).to.equal(
			'inbox, not tried yet: about 3 of 10 would be read'
		);
		expect(wouldReach([{ way: 'text', tried: false, share: null }], all)).to.equal(
			'text, not tried yet'
		);
		expect(
			wouldReach([{ way: 'email', tried: false, share: 0.4, messagesOnly: true }], all)
		).to.equal('a message by email: they want no announcements by it; about 4 of 10 would be read');
		// One that is hardly ever read is no help.
		expect(wouldReach([{ way: 'inbox', tried: false, share: 0.1 }], all)).to.equal('a call');
		expect(wouldReach(open.slice(0, 1), all)).to.equal('a call');
		expect(wouldReach([], { ...all, numbers: 0 })).to.equal(
			'a note home with the student: no number on file'
		);
		expect(wouldReach([], { numbers: 1, unsaid: 2, adults: 0 })).to.equal(
			'say which guardians have custody'
		);
	});

	it('says what it did not read', () => {
		expect(
			unreadWords([
				{ way: 'email', arrived: 5 },
				{ way: 'text', arrived: 0 },
				{ way: 'inbox', arrived: 2 }
			])
		).to.equal('5 emails and 2 in the inbox arrived, none was read');
		expect(unreadWords([{ way: 'text', arrived: 1 }])).to.equal('1 text arrived, and was not read');
	});
});
