import { expect } from 'chai';
import { sendAutoNotes } from '../../../../../courier/auto-notes';
import type { House } from '../../../../../courier/house';
import { guestToken, invitationToken } from '../../../../../src/lib/server/access/tokens';
import { comingGuest, invitationLink } from '../../../../../src/lib/server/db/models/coming';
import { openToAnybody } from '../../../../../src/lib/server/desk/invitations/change';
import {
	answerAsGuest,
	askGuest,
	openGuest,
	openInvitation,
	type GuestForm
} from '../../../../../src/lib/server/desk/invitations/guests';
import { comingList } from '../../../../../src/lib/server/desk/invitations/list';
import type { Letter } from '../../../../../src/lib/server/gateway/mail-letter';
import type { TextMessage } from '../../../../../src/lib/server/gateway/text';
import { coordinator } from '../../database';
import { hourMs, invitedSchool, key, type InvitedSchool } from './invited-school';

const ana = {
	...{ name: 'Ana Pires', address: 'Ana@pires.example', language: 'en' },
	...{ comes: true, adults: 2, students: 0, slot: null }
};

describe('guests of an invitation that is open to anybody', () => {
	let school: InvitedSchool;
	let letters: Letter[];
	let texts: TextMessage[];
	beforeEach(async () => {
		school = await invitedSchool();
		[letters, texts] = [[], []];
	});
	afterEach(() => school.close());
	const home = () =>
		({
			...{ db: school.db, key, me: { holds: () => Promise.resolve(true) } },
			settings: { publicUrl: 'https://courier.example', returnDomain: 'return.example' },
			mail: {
				send(letter: Letter) {
					letters.push(letter);
					return Promise.resolve({ kind: 'accepted', detail: 'taken' });
				}
			},
			text: {
				send(message: TextMessage) {
					texts.push(message);
					return Promise.resolve({ kind: 'accepted', detail: 'taken' });
				}
			}
		}) as unknown as House;
	const link = async (id: number) =>
		invitationToken(key, {
			id,
			nonce: (await school.db.rows(invitationLink).one({ dispatchId: id }))!.nonce
		});
	const asks = async (id: number, form: Partial<GuestForm> = {}) => {
		const done = await askGuest(school.db, key, await link(id), { ...ana, ...form });
		return done.ok ? done.to : done.why;
	};
	const guestLink = async (address = 'ana@pires.example') => {
		const row = await school.db.one<{ id: number; nonce: string }>(
			'SELECT id, nonce FROM coming_guest WHERE address = $address COLLATE NOCASE',
			{ address }
		);
		return guestToken(key, row!);
	};
	const list = async (id: number) =>
		(await comingList(school.db, coordinator, id, {
			...{ state: 'all', slot: 0, search: '', page: 1 }
		}))!.lines.map((l) => `${l.names.join('+')} ${l.state} ${l.people}`);

	it('have places only once they have said by the letter that it was they', async () => {
		const id = await school.invite({ anybody: true, places: 3 });
		expect(await asks(id)).to.equal('Ana@pires.example');
		expect(await list(id)).to.not.include('Ana Pires comes 2');
		await sendAutoNotes(home(), 'email');
		const [letter] = letters;
		expect(letter!.subject).to.equal('Was it you? “Concert”');
		expect(letter!.text).to.include(`https://courier.example/i/me/${await guestLink()}`);
		// The letter is opened by a machine: nothing is said by that.
		expect((await openGuest(school.db, key, await guestLink()))!.guest.confirmedAt).to.equal(null);
		expect(await list(id)).to.not.include('Ana Pires comes 2');
		expect((await answerAsGuest(school.db, key, await guestLink(), null)).ok).to.equal(true);
		expect(await list(id)).to.include('Ana Pires comes 2');
		// Changed on their page, as a family does.
		const four = { comes: true, adults: 4, students: 0, slot: null };
		expect(await answerAsGuest(school.db, key, await guestLink(), four)).to.include({
			why: 'no-room'
		});
		expect(
			(await answerAsGuest(school.db, key, await guestLink(), { ...four, comes: false })).ok
		).to.equal(true);
		expect(await list(id)).to.include('Ana Pires not 0');
	});

	it('who types another’s name over a confirmed guest changes nothing of theirs', async () => {
		const id = await school.invite({ anybody: true });
		await asks(id);
		await answerAsGuest(school.db, key, await guestLink(), null);
		await asks(id, { name: 'Eve Grau', comes: false, address: 'ana@PIRES.example' });
		const guest = await school.db.rows(comingGuest).one({ dispatchId: id });
		expect(guest).to.include({ name: 'Ana Pires' });
		expect(JSON.parse(guest!.wanted)).to.include({ comes: true });
		expect(await list(id)).to.include('Ana Pires comes 2');
	});

	it('what is no name, no address, too many or too late is said, and too many letters are not written', async () => {
		const id = await school.invite({ anybody: true, most: 3 });
		expect(await asks(id, { name: '1234' })).to.equal('no-name');
		expect(await asks(id, { address: 'nowhere' })).to.equal('no-address');
		expect(await asks(id, { adults: 4 })).to.equal('too-many');
		for (let i = 0; i < 5; i += 1) await asks(id);
		expect(await asks(id)).to.equal('wait');
		await school.pass(25 * hourMs);
		expect(await asks(id)).to.equal('closed');
	});

	it('a link that was ended, forged, or of an invitation that is not open opens nothing', async () => {
		const id = await school.invite({ anybody: true });
		const token = await link(id);
		expect((await openInvitation(school.db, key, token))!.id).to.equal(id);
		await asks(id);
		const own = await guestLink();
		await openToAnybody(school.db, coordinator, id, false);
		expect(await openInvitation(school.db, key, token)).to.equal(null);
		expect(await answerAsGuest(school.db, key, own, null)).to.include({ why: 'gone' });
		await openToAnybody(school.db, coordinator, id, true);
		// Another one: the ended link stays ended.
		expect(await openInvitation(school.db, key, token)).to.equal(null);
		for (const forged of ['', 'x', `${id}-${'A'.repeat(22)}`, own, '9'.repeat(400)])
			expect(await openInvitation(school.db, key, forged)).to.equal(null);
		expect(await openGuest(school.db, key, token)).to.equal(null);
	});

	it('who has confirmed may still say otherwise when the link for others is ended', async () => {
		const id = await school.invite({ anybody: true });
		await asks(id);
		await answerAsGuest(school.db, key, await guestLink(), null);
		await openToAnybody(school.db, coordinator, id, false);
		const no = { comes: false, adults: 0, students: 0, slot: null };
		expect((await answerAsGuest(school.db, key, await guestLink(), no)).ok).to.equal(true);
		expect(await list(id)).to.include('Ana Pires not 0');
	});

	it('the letter that asks is good for a week', async () => {
		const id = await school.invite({ anybody: true, until: 1_900_000_000_000 });
		await asks(id);
		await school.pass(8 * 24 * hourMs);
		expect(await answerAsGuest(school.db, key, await guestLink(), null)).to.include({
			why: 'closed'
		});
		await asks(id);
		expect((await answerAsGuest(school.db, key, await guestLink(), null)).ok).to.equal(true);
	});

	it('a guest who moves up is written to; a family is told by text in its language, of how it stands when it is said', async () => {
		const id = await school.invite({ anybody: true, places: 2 });
		await school.says(10, id, { adults: 2 });
		await asks(id, { adults: 1 });
		await answerAsGuest(school.db, key, await guestLink(), null);
		await school.text('+12075550102', 'có');
		await school.says(10, id, { comes: false });
		await sendAutoNotes(home(), 'email');
		await sendAutoNotes(home(), 'text');
		expect(letters.map((l) => l.subject)).to.deep.equal([
			'Was it you? “Concert”',
			'Your places at “Concert”'
		]);
		expect(letters[1]!.text).to.match(/they are yours: 1\..*\/i\/me\/\d+-/s);
		// Said after it moved up: the receipt says that it comes, and so does the other.
		expect(texts.map((t) => t.text)).to.have.length(2);
		expect(texts[0]!.text).to.match(
			/^Brackwater Isles: “Concert”: quý vị đến, số chỗ: 1\. .*\/f\//
		);
		// Whoever gives them up before it is said is not told that they have them.
		await school.says(12, id, { comes: false });
		await sendAutoNotes(home(), 'text');
		expect(texts).to.have.length(2);
	});
});
