import { expect } from 'chai';
import { claim } from '../../../../../courier/claim';
import { identity } from '../../../../../courier/identity';
import { writeOutcomes } from '../../../../../courier/outcomes';
import { manyReaders } from '../../../../../src/lib/core/track/visitor';
import { tokenOf } from '../../../../named';
import { moveTo, now } from '../../../../../src/lib/server/clock';
import { dispatchLetters } from '../../../../../src/lib/server/desk/sheet/letters';
import {
	followWordLink,
	linkFollowed,
	pictureLoaded
} from '../../../../../src/lib/server/desk/family/requested';
import { dispatchReach } from '../../../../../src/lib/server/desk/reach/reach';
import { record } from '../../../../../src/lib/server/desk/track/record';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { requests } from '../../../../../src/lib/server/desk/family/requested';
import { takeLetters } from '../../../../../src/lib/server/desk/family/letter-happened';
import type { Query } from '../../../../../src/lib/server/db/open';
import { takeAsked } from '../../../../../src/lib/server/desk/track/visit';
import { wordingOf, type Wording } from '../../../../../src/lib/core/copy/words';
import { coordinator, sheetOf, testSchool, type TestSchool } from '../../database';
import { openLink } from '../../../../../src/lib/server/access/private-link';
import { evidenceText } from '../../../../../src/lib/core/track/evidence-words';
import type { Evidence } from '../../../../../src/lib/core/track/evidence';

const key = Buffer.alloc(32, 7);
const everything = { way: 'all', state: 'all', section: 0, search: '', page: 1 } as const;
const person = (name: string) => ({
	method: 'GET',
	agent: 'Mozilla/5.0 Firefox/140.0',
	purpose: '',
	key: name
});
const form = 'https://forms.brackwater.example/boats?run=1';
/** Words with a link in them, the same in two languages, and one that is no page. */
const linked: Wording = {
	...wordingOf('Boats', ''),
	words: {
		subject: 'Boats',
		own: {},
		body: {
			type: 'doc',
			content: [
				{
					type: 'paragraph',
					content: [
						{ type: 'text', text: 'Say so ' },
						{ type: 'text', text: 'here', marks: [{ type: 'link', attrs: { href: form } }] },
						{
							type: 'text',
							text: 'or write',
							marks: [{ type: 'link', attrs: { href: 'mailto:office@brackwater.example' } }]
						}
					]
				}
			]
		}
	}
};

describe('what is asked for through a private link', () => {
	let school: TestSchool;
	let id: number;
	let mail: number;
	beforeEach(async () => {
		school = await testSchool();
		const sheet = sheetOf({ wording: linked, holdMinutes: 0 });
		const sent = await schedule(school.db, key, coordinator, sheet, 5);
		if (!sent.ok) throw new Error(sent.checks[0]!.text);
		id = sent.dispatchId;
		const me = identity(school.db);
		await me.beat();
		const at = await now(school.db);
		for (const way of ['email', 'text'] as const) {
			for (const copy of await claim(school.db, me, way, 10)) {
				await school.db.write((tx) =>
					writeOutcomes(tx, [{ copy, outcome: { kind: 'accepted', detail: 'ok' }, at }])
				);
			}
		}
		mail = (await school.db.one<{ id: number }>(`SELECT id FROM delivery WHERE way = 'email'`))!.id;
	});
	afterEach(() => school.close());
	const pass = async (seconds: number) =>
		moveTo(school.db, (await now(school.db)) + seconds * 1_000);
	const stands = async () =>
		(await school.db.one<{ state: string; strength: string }>(
			'SELECT state, strength FROM delivery WHERE id = $mail',
			{ mail }
		))!;
	const opened = async (copy: number) => {
		const link = await openLink(school.db, await tokenOf(school.db, key, copy));
		if (!link.ok) throw new Error('the link does not open');
		return link;
	};

	it('is weak within seconds of its leaving, and fair a while after', async () => {
		await pass(5);
		await linkFollowed(school.db, mail, person('guard'));
		expect(await stands()).to.deep.equal({ state: 'delivered', strength: 'weak' });
		await pass(120);
		await linkFollowed(school.db, mail, person('mother'));
		expect(await stands()).to.deep.equal({ state: 'read', strength: 'fair' });
	});

	it('is weak within seconds of its arrival, where the mail system has only just said so', async () => {
		await pass(1_200);
		await school.db.write(async (tx) => {
			const at = await now(tx);
			await record(tx, [
				{ deliveryId: mail, at, kind: 'delivered', source: 'notification', detail: 'there' }
			]);
		});
		await pass(3);
		await linkFollowed(school.db, mail, person('guard'));
		expect(await stands()).to.deep.equal({ state: 'delivered', strength: 'weak' });
	});

	it('is weak from a place that opens many people’s letters within a minute', async () => {
		await pass(600);
		await school.db.write(async (tx) => {
			for (let i = 0; i < manyReaders; i += 1) {
				await tx.run(
					`INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox) VALUES (${500 + i}, 'adult', 'Reader', '${i}', 'en', NULL, NULL, 0)`
				);
				await tx.run(
					`INSERT INTO delivery (id, dispatch_id, person_id, way, state, state_at, due_at) VALUES (${9000 + i}, ${id}, ${500 + i}, 'email', 'sent', 0, 0)`
				);
			}
		});
		for (let i = 0; i < manyReaders; i += 1) {
			await linkFollowed(school.db, 9000 + i, person('gate'));
		}
		await linkFollowed(school.db, mail, person('gate'));
		expect((await stands()).strength).to.equal('weak');
		const said = await school.db.one<Evidence>(
			`SELECT detail, said, tries, sign FROM event WHERE delivery_id = ${mail} AND kind = 'link-followed'`
		);
		expect(said!.sign).to.equal('many-readers');
		expect(evidenceText(said!)).to.contain(`the letters of ${manyReaders} other people`);
	});

	it('counts the same visit once within a minute', async () => {
		await pass(600);
		for (let i = 0; i < 3; i += 1) await linkFollowed(school.db, mail, person('mother'));
		await pass(61);
		await linkFollowed(school.db, mail, person('mother'));
		const n = await school.db.all(
			`SELECT 1 FROM event WHERE delivery_id = ${mail} AND kind = 'link-followed'`
		);
		expect(n).to.have.length(2);
	});

	it('is judged in a group as one after another', async () => {
		await pass(600);
		const at = await now(school.db);
		const copies = await school.db.all<{ id: number; personId: number; way: string }>(
			`SELECT id, person_id AS personId, way FROM delivery WHERE way != 'inbox' AND dispatch_id = ${id} ORDER BY id`
		);
		expect(copies.length).to.be.above(2);
		const asked = copies.map((c) => ({
			...requests.link,
			...{ deliveryId: c.id, at, visitor: person(`person-${c.personId}`) }
		}));
		const happened = copies.map((c) => ({
			opened: { personId: c.personId, deliveryId: c.id },
			...{ dispatchId: id, kind: 'opened' as const, at, visitor: person(`person-${c.personId}`) }
		}));
		/** What is there after some work, which is undone. */
		const after = async (work: (tx: Query) => Promise<unknown>) => {
			let found: unknown[] = [];
			await school.db
				.write(async (tx) => {
					await work(tx);
					found = await tx.all(
						`SELECT delivery_id, event.at, kind, source, detail, event.strength, visitor, sign, state, read_at
						FROM event JOIN delivery ON delivery.id = delivery_id WHERE kind IN ('link-followed', 'opened')
						ORDER BY kind, delivery_id`
					);
					throw new Error('undone');
				})
				.catch(() => {});
			return found;
		};
		const single = await after(async (tx) => {
			for (const a of asked) await takeAsked(tx, [a]);
			for (const h of happened) await takeLetters(tx, [h]);
		});
		const grouped = await after(async (tx) => {
			await takeAsked(tx, asked);
			// Two of them read at one mailbox: the second finds what the first has opened.
			for (const one of [0, 1])
				await takeLetters(
					tx,
					happened.filter((_, i) => i % 2 === one)
				);
		});
		expect(single.length).to.be.above(copies.length);
		expect(grouped).to.deep.equal(single);
		expect(
			await school.db.write((tx) =>
				takeLetters(tx, [happened[0]!, { ...happened[1]!, dispatchId: id + 1 }])
			)
		).to.deep.equal([at, null]);
	});

	it('is weak for a picture, whoever loads it and whenever', async () => {
		await pass(7_200);
		await pictureLoaded(school.db, mail, person('mother'));
		expect(await stands()).to.deep.equal({ state: 'delivered', strength: 'weak' });
	});

	it('leads on from a link in the words to the page that the sender put there, and says who followed it', async () => {
		const { letters, links } = await dispatchLetters(school.db, id);
		expect(links).to.deep.equal([form]);
		const facts = { given: 'Delfina', full: 'Delfina Amaro', students: [] };
		const { html, text } = letters.email({
			facts,
			language: 'en',
			link: 'https://x.example/f/tok',
			mayStop: true
		});
		expect(html).to.contain(`href="https://x.example/f/tok/to/${id}/0"`);
		expect(html).to.contain('href="mailto:office@brackwater.example"');
		expect(html).to.contain('<img src="https://x.example/f/tok/dot.gif"');
		// What people read as an address stays the address.
		expect(text).to.contain(form);
		await pass(600);
		const link = await opened(mail);
		expect(await followWordLink(school.db, link, id, 0, person('mother'))).to.equal(form);
		expect(await followWordLink(school.db, link, id, 1, person('mother'))).to.equal(null);
		expect(await followWordLink(school.db, link, id + 1, 0, person('mother'))).to.equal(null);
		await followWordLink(
			school.db,
			await opened(
				(await school.db.one<{ id: number }>(
					`SELECT id FROM delivery WHERE way = 'text' AND person_id = 12`
				))!.id
			),
			id,
			0,
			{ ...person('guard'), agent: 'curl/8.5' }
		);
		const reach = (await dispatchReach(school.db, coordinator, id, everything))!;
		expect(reach.copies.links).to.deep.equal([
			{ href: form, people: 1, machines: 1, names: ['Delfina Amaro'] }
		]);
	});
});
