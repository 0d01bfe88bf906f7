import { expect } from 'chai';
import fc from 'fast-check';
import {
	applied,
	differenceOf,
	fieldsApart,
	stepOf,
	undone,
	type Change
} from '../../../../src/lib/core/roster/difference';
import {
	noThings,
	thingKinds,
	type AnyThing,
	type Things
} from '../../../../src/lib/core/roster/things';

/** Rosters of a few things of each kind: keys and fields from small sets, so that two of them share much. */
const value = fc.constantFrom<string | boolean | null>('a', 'b', '', null, true, false);
const thing = fc.record({ x: value, y: value, z: value }, { noNullPrototype: true });
const kindOfThings = fc.dictionary(fc.constantFrom('1', '2', '3', '4', '5'), thing, {
	noNullPrototype: true
});
const things: fc.Arbitrary<Things> = fc
	.tuple(...thingKinds.map(() => kindOfThings))
	.map((lists) => {
		const all = noThings();
		thingKinds.forEach((kind, i) => {
			for (const [key, fields] of Object.entries(lists[i]!))
				(all[kind] as Map<string, AnyThing>).set(key, fields);
		});
		return all;
	});

const plain = (all: Things) =>
	Object.fromEntries(
		thingKinds.map((kind) => [kind, Object.fromEntries(all[kind] as ReadonlyMap<string, AnyThing>)])
	);

describe('the difference of two rosters', () => {
	it('applied to the first it gives the second, and undone the first again (200 pairs)', () => {
		fc.assert(
			fc.property(things, things, (first, second) => {
				const changes = differenceOf(first, second);
				const there = applied(first, changes);
				expect(plain(there)).to.deep.equal(plain(second));
				expect(plain(applied(there, undone(changes)))).to.deep.equal(plain(first));
				expect(differenceOf(second, second)).to.deep.equal([]);
			}),
			{ numRuns: 200, seed: 2027 }
		);
	});

	it('names what is named before what names it, and lets it go after', () => {
		const all = noThings();
		all.school.set('s', { name: 'S' });
		all.enrolment.set('e', { section: 'x', student: 'y' });
		const kinds = (changes: readonly Change[]) => changes.map((c) => c.kind);
		expect(kinds(differenceOf(noThings(), all))).to.deep.equal(['school', 'enrolment']);
		expect(kinds(differenceOf(all, noThings()))).to.deep.equal(['enrolment', 'school']);
	});

	it('a field that is not spoken of is no change', () => {
		expect(fieldsApart({ a: 'x', b: 'y' }, { a: 'x' })).to.deep.equal([]);
		expect(fieldsApart({ a: 'x' }, { a: 'x', b: 'y' })).to.deep.equal(['b']);
		expect(fieldsApart({ a: 'x' }, { a: null })).to.deep.equal(['a']);
	});
});

describe('what is done where somebody has mended by hand', () => {
	const change = (before: AnyThing | null, after: AnyThing | null): Change => ({
		kind: 'person',
		key: 'p',
		before,
		after
	});
	const here = (thing: AnyThing, gone = false) => ({ thing, gone });

	it('what the file has not changed stays mended; what it has, comes with both shown', () => {
		const said = { name: 'Ana', email: 'a@x.example', grade: '4' };
		const mended = here({ ...said, name: 'Anna', email: 'mended@x.example' });
		expect(stepOf(change(said, { ...said, grade: '5' }), mended)).to.deep.equal({
			what: 'changed',
			set: { grade: '5' },
			disputes: []
		});
		expect(stepOf(change(said, { ...said, email: 'b@x.example' }), mended)).to.deep.equal({
			what: 'changed',
			set: { email: 'b@x.example' },
			disputes: [
				{ field: 'email', said: 'a@x.example', here: 'mended@x.example', file: 'b@x.example' }
			]
		});
		// The file says by now what was put by hand: nothing is to be done.
		expect(stepOf(change(said, { ...said, name: 'Anna' }), mended)).to.equal(null);
	});

	it('what was ended by hand stays ended until the file ends it too and has it again', () => {
		const said = { name: 'Ana' };
		const ended = here(said, true);
		expect(stepOf(change(said, { name: 'Anna' }), ended)).to.equal(null);
		expect(stepOf(change(said, null), ended)).to.equal(null);
		expect(stepOf(change(null, { name: 'Anna' }), ended)).to.deep.equal({
			what: 'back',
			set: { name: 'Anna' }
		});
	});

	it('new, known from elsewhere, gone', () => {
		expect(stepOf(change(null, { name: 'Ana' }), undefined)).to.deep.equal({ what: 'new' });
		expect(stepOf(change(null, { name: 'Ana' }), here({ name: 'Ana' }))).to.equal(null);
		expect(stepOf(change(null, { name: 'Ana' }), here({ name: 'A.' }))).to.deep.equal({
			what: 'changed',
			set: { name: 'Ana' },
			disputes: []
		});
		expect(stepOf(change({ name: 'Ana' }, null), here({ name: 'Ana' }))).to.deep.equal({
			what: 'gone'
		});
		// Of what is not here at all nothing is changed and nothing goes.
		expect(stepOf(change({ name: 'Ana' }, null), undefined)).to.equal(null);
		expect(stepOf(change({ name: 'Ana' }, { name: 'B' }), undefined)).to.equal(null);
	});
});
