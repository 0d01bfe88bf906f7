import { expect } from 'chai';
import { evidenceText } from '../../../../src/lib/core/track/evidence-words';
import {
	hastyMs,
	judged,
	standingOf,
	strengthOf,
	type EventKind,
	type Evidence,
	type Source
} from '../../../../src/lib/core/track/evidence';
import { machineSign, manyReaders } from '../../../../src/lib/core/track/visitor';
import { draws, often } from '../../random';

const kinds = Object.keys(strengthOf) as EventKind[];
/** Events a minute apart, in the order given. */
const minute = 60_000;
const event = (kind: EventKind, at: number, source: Source = 'courier'): Evidence => ({
	kind,
	at,
	source,
	strength: strengthOf[kind],
	detail: ''
});
const events = (...list: EventKind[]): Evidence[] => list.map((kind, i) => event(kind, i * minute));
const stateOf = (list: readonly Evidence[]) => standingOf(list, 'planned').state;

describe('evidence to state', () => {
	for (const [list, state] of [
		[[], 'planned'],
		[['scheduled', 'deferred'], 'planned'],
		[['scheduled', 'noted'], 'planned'],
		[['scheduled', 'spared'], 'spared'],
		[['scheduled', 'spared', 'accepted'], 'sent'],
		[['scheduled', 'accepted'], 'sent'],
		[['scheduled', 'accepted', 'delivered'], 'delivered'],
		[['scheduled', 'delivered', 'accepted'], 'delivered'],
		[['scheduled', 'accepted', 'failed'], 'failed'],
		[['scheduled', 'stopped'], 'failed'],
		[['scheduled', 'accepted', 'delivered', 'failed'], 'failed'],
		[['scheduled', 'accepted', 'opened', 'failed'], 'read'],
		[['scheduled', 'accepted', 'receipt'], 'read'],
		[['scheduled', 'accepted', 'link-followed'], 'read'],
		[['scheduled', 'accepted', 'words-link-followed'], 'read'],
		[['scheduled', 'acknowledged', 'delivered'], 'read'],
		[['answered', 'opened'], 'answered'],
		[['scheduled', 'unanswered'], 'planned'],
		[['scheduled', 'unanswered', 'unsure'], 'sent'],
		[['scheduled', 'unanswered', 'unsure', 'once-more'], 'planned'],
		[['scheduled', 'unsure', 'once-more', 'unsure'], 'sent'],
		[['scheduled', 'unsure', 'once-more', 'accepted'], 'sent'],
		[['scheduled', 'unsure', 'opened', 'once-more'], 'read']
	] as const) {
		it(`${list.join(', ') || 'nothing'} is ${state}`, () => {
			expect(stateOf(events(...list))).to.equal(state);
		});
	}

	it('does not depend on order or repetition (500 random sets)', () => {
		const r = draws(4);
		for (let i = 0; i < often(500); i += 1) {
			const list = Array.from({ length: r.int(1, 8) }, () =>
				event(r.pick(kinds), r.int(0, 40) * 1_000)
			);
			const standing = standingOf(list, 'planned');
			expect(standingOf(r.shuffle([...list, ...list]), 'planned')).to.deep.equal(standing);
		}
	});

	it('never goes back, whatever comes in late and in whatever order (500 random runs)', () => {
		const order = ['planned', 'spared', 'sent', 'delivered', 'failed', 'read', 'answered'];
		const r = draws(5);
		for (let i = 0; i < often(500); i += 1) {
			// Only a person takes a step back: what may have arrived is sent once more.
			const forward = kinds.filter((k) => k !== 'once-more');
			const list = Array.from({ length: 10 }, () => event(r.pick(forward), r.int(0, 60) * 1_000));
			let before = 0;
			for (let n = 1; n <= list.length; n += 1) {
				const now = order.indexOf(stateOf(list.slice(0, n)));
				expect(now).to.be.at.least(before);
				before = now;
			}
		}
	});

	it('has left when its arrival is said, where its leaving was never written down', () => {
		const list = [event('scheduled', 0), event('delivered', 5_000, 'notification')];
		expect(standingOf(list, 'planned')).to.include({ state: 'delivered', leftAt: 5_000 });
		expect(standingOf([...list, event('accepted', 1_000)], 'planned').leftAt).to.equal(1_000);
	});

	it('takes an answer that may be a machine’s for no more than arrival', () => {
		const weak = { ...event('answered', 9_000), strength: 'weak' as const };
		expect(standingOf([event('accepted', 0), weak], 'held')).to.include({
			state: 'delivered',
			strength: 'weak',
			readAt: null
		});
	});

	it('knows when a copy left and when it was first read', () => {
		const list = [
			event('accepted', 1_000),
			event('picture-loaded', 2_000),
			event('link-followed', 90_000),
			event('opened', 91_000),
			event('answered', 200_000)
		];
		expect(standingOf(list, 'held')).to.deep.equal({
			state: 'answered',
			at: 200_000,
			strength: 'strong',
			leftAt: 1_000,
			readAt: 90_000
		});
	});
});

describe('weak evidence', () => {
	it('is no reading: a picture that was loaded shows only that the letter arrived', () => {
		const standing = standingOf(events('accepted', 'picture-loaded', 'picture-loaded'), 'held');
		expect(standing).to.include({ state: 'delivered', strength: 'weak', readAt: null });
	});

	it('is a link followed within seconds of its leaving, or before that is known', () => {
		const follow = (at: number) => [event('accepted', 1_000), event('link-followed', at)];
		expect(stateOf(follow(1_000 + hastyMs))).to.equal('delivered');
		expect(stateOf(follow(1_001 + hastyMs))).to.equal('read');
		expect(stateOf([event('link-followed', 5_000)])).to.equal('delivered');
		// An inbox copy leaves by being put in its place.
		expect(stateOf([event('delivered', 0), event('link-followed', 60_000)])).to.equal('read');
		// Where a killed courier wrote no leaving down, a letter is looked over as it arrives, and read later:
		// else whoever opens it would never have read it.
		const arrived = (at: number) =>
			stateOf([event('delivered', 1_000, 'notification'), event('link-followed', at)]);
		expect(arrived(1_000 + hastyMs)).to.equal('delivered');
		expect(arrived(1_001 + hastyMs)).to.equal('read');
		expect(judged(follow(2_000)).map((e) => e.hasty)).to.deep.equal([false, true]);
	});

	it('is a page that a machine opened as soon as the letter had left; later it is its reader', () => {
		const open = (at: number) => standingOf([event('accepted', 0), event('opened', at)], 'held');
		expect(open(5_000)).to.include({ state: 'delivered', strength: 'weak' });
		expect(open(60_000)).to.include({ state: 'read', strength: 'strong' });
	});

	it('does not touch what cannot be had by accident', () => {
		for (const kind of ['acknowledged', 'receipt', 'answered'] as const) {
			const { strength } = standingOf([event('accepted', 0), event(kind, 1)], 'held');
			expect(strength, kind).to.equal('strong');
		}
	});
});

describe('who asks for a link', () => {
	const browser = {
		method: 'GET',
		agent: 'Mozilla/5.0 (Android 14; Mobile; rv:140.0) Gecko/140.0 Firefox/140.0',
		purpose: '',
		othersJustNow: 0
	};
	it('is taken for a reader where nothing speaks against it', () => {
		expect(machineSign(browser)).to.equal(null);
		expect(machineSign({ ...browser, othersJustNow: manyReaders - 1 })).to.equal(null);
	});
	// Sec-Purpose: Fetch standard; HEAD: RFC 9110 section 9.3.2; names of programs: common practice.
	for (const [what, over, sign] of [
		['asks for the head only', { method: 'HEAD' }, 'head-only'],
		['fetches ahead', { purpose: 'prefetch;prerender' }, 'ahead'],
		['names no program', { agent: ' ' }, 'no-browser'],
		['is a program', { agent: 'python-requests/2.32' }, 'program'],
		['is a scanner', { agent: 'Mozilla/5.0 (compatible; LinkScanner/2.1)' }, 'program'],
		['opens many people’s letters', { othersJustNow: manyReaders }, 'many-readers']
	] as const) {
		it(`is taken for a machine where it ${what}`, () => {
			expect(machineSign({ ...browser, ...over })).to.equal(sign);
		});
	}

	it('in words: what happened, the tries, what was said, what speaks for a machine', () => {
		expect(evidenceText({ detail: 'the mailbox is full' })).to.equal('the mailbox is full');
		expect(
			evidenceText({ detail: 'the mailbox is full', tries: 10, said: '452 4.2.2', sign: 'ahead' })
		).to.equal(
			'given up after 10 tries: the mailbox is full (452 4.2.2): fetched ahead of any click'
		);
	});

	it('is hasty up to ten seconds after its leaving, and where nothing is known of that; only what is requested is', () => {
		const after = (kind: EventKind, ms: number, left: Evidence[] = [event('accepted', 0)]) =>
			judged([...left, event(kind, ms)]).at(-1)!;
		for (const kind of ['link-followed', 'words-link-followed', 'opened'] as const) {
			expect([after(kind, hastyMs).strength, after(kind, hastyMs).hasty]).to.deep.equal([
				'weak',
				true
			]);
			expect(after(kind, hastyMs + 1)).to.include({ hasty: false, strength: strengthOf[kind] });
			expect(after(kind, 1e9, []).hasty).to.equal(true);
			for (const left of ['unanswered', 'unsure'] as const)
				expect(after(kind, hastyMs + 1, [event(left, 0)]).hasty).to.equal(false);
		}
		expect(after('receipt', 1).hasty).to.equal(false);
		// What is weak already cannot be doubted more.
		const weak: Evidence = { ...event('opened', 5), strength: 'weak' };
		expect(judged([event('accepted', 0), weak]).at(-1)!.hasty).to.equal(false);
		for (const source of ['notification', 'courier'] as const) {
			expect(after('opened', hastyMs, [event('delivered', 0, source)]).hasty).to.equal(true);
			expect(after('opened', hastyMs + 1, [event('delivered', 0, source)]).hasty).to.equal(false);
		}
		// What is learned of an earlier leaving can only lift the doubt.
		const list = [event('delivered', 5_000, 'notification'), event('opened', hastyMs + 2_000)];
		expect(judged(list).at(-1)!.hasty).to.equal(true);
		expect(judged([...list, event('accepted', 1_000)]).at(-1)!.hasty).to.equal(false);
	});

	it('has the time of the state, of the leaving and of the first reading', () => {
		const list = [
			event('accepted', 1),
			event('delivered', 2),
			event('link-followed', hastyMs + 3),
			event('answered', hastyMs + 9)
		];
		expect(standingOf(list, 'held')).to.deep.equal({
			state: 'answered',
			at: hastyMs + 9,
			strength: 'strong',
			leftAt: 1,
			readAt: hastyMs + 3
		});
		expect(standingOf([], 'held')).to.deep.equal({
			state: 'held',
			at: null,
			strength: 'none',
			leftAt: null,
			readAt: null
		});
		// What may have arrived, and was sent once more at the same moment, is open again.
		expect(standingOf([event('unsure', 5), event('once-more', 5)], 'planned').state).to.equal(
			'planned'
		);
		// A machine's answer shows that it arrived, no more.
		const machine: Evidence = { ...event('answered', 5), strength: 'weak' };
		expect(standingOf([event('accepted', 0), machine], 'planned').state).to.equal('delivered');
		// Of two pieces of evidence for the same state the first says since when.
		expect(standingOf([event('failed', 3), event('stopped', 4)], 'planned').at).to.equal(3);
	});
});
