import { pageAsks } from '../../../core/copy/asks';
import { proof as proofs } from '../../db/models/dispatch';
import { fold } from '../../../core/format/fold';
import { flowed } from '../../../core/copy/flowed';
import { aboutLine, lettersOf, type EmailLetter, type LetterCopy } from '../../../core/copy/letter';
import { pictureCid } from '../../../core/copy/picture-cid';
import { measureText } from '../../../core/copy/segments';
import { usableAddress } from '../../../core/plan/usable-address';
import type { PlannedCopy } from '../../../core/plan/manifest';
import { reasonText } from '../../../core/audience/reasons';
import { nameOf } from '../../../core/roster/relation';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import { nameOfLanguage } from '../../../core/copy/language';
import type { Db, Query } from '../../db/open';
import { withNewest } from '../sheet/feed-tried';
import { filesOfSheet, usableFiles } from '../sheet/files';
import { asksOf } from '../sheet/asked';
import { frameOf, readSender } from '../sheet/letters';
import { planBook, plannedFacts } from './plan-facts';
import { planSheet, type Planned } from './plan-sheet';
import type { Sheet } from '../sheet/sheet';
import { partOf } from './tally';
import type { Providers } from '../../providers';
import type { Settings } from '../../settings';
import { ownInboxLink } from '../../access/own-link';
import type { SentProof } from '../sheet/sent-proof';
import { linkLike } from './measure-texts';
import type { ProofReader, Proof, ProofOf, ProofEmail, ProofSent } from './types';
import type { Way, WayOut } from '../../../core/roster/way';

/** As many as a search shows, and as many languages as are offered. */
const mostFound = 20;
const mostLanguages = 6;

/** Readers to look at first: the longest name, several students, each other language. With a search, those it fits. */
export async function proofReaders(
	db: Db,
	user: User,
	sheet: Sheet,
	search: string
): Promise<ProofReader[]> {
	const { roster, manifest } = await planSheet(db, user, sheet);
	const part = new Map(manifest.recipients.map((r) => [r.personId, r]));
	const reader = (personId: number, why: string): ProofReader => ({
		personId,
		name: nameOf(roster, personId),
		part: partOf(roster, part.get(personId)),
		language: nameOfLanguage(roster.person(personId)?.language ?? 'en'),
		why
	});
	const ids = manifest.recipients.map((r) => r.personId);
	const words = fold(search).split(/\s+/).filter(Boolean);
	if (words.length > 0) {
		return ids
			.filter((id) => words.every((w) => fold(nameOf(roster, id)).includes(w)))
			.slice(0, mostFound)
			.map((id) => reader(id, ''));
	}
	const offered = new Map<number, string>();
	const offer = (personId: number | undefined, why: string) => {
		if (personId !== undefined && !offered.has(personId)) offered.set(personId, why);
	};
	const most = (of: (id: number) => number) =>
		ids.reduce<number | undefined>(
			(best, id) => (best === undefined || of(id) > of(best) ? id : best),
			undefined
		);
	const waysOf = new Map<number, Set<Way>>();
	for (const { personId, way } of manifest.copies) {
		waysOf.set(personId, (waysOf.get(personId) ?? new Set()).add(way));
	}
	if (sheet.ways.length > 1) {
		offer(
			ids.find((id) => sheet.ways.every((w) => waysOf.get(id)?.has(w))),
			'gets it by every way'
		);
	}
	const several = most((id) => part.get(id)!.because.length);
	if (several !== undefined && part.get(several)!.because.length > 1) {
		offer(several, 'several students');
	}
	offer(
		most((id) => nameOf(roster, id).length),
		'longest name'
	);
	const languages = new Map<string, number>();
	for (const id of ids) {
		const language = roster.person(id)?.language ?? 'en';
		if (language !== sheet.wording.language && !languages.has(language))
			languages.set(language, id);
	}
	for (const [language, id] of [...languages].slice(0, mostLanguages)) {
		offer(id, `reads ${nameOfLanguage(language)}`);
	}
	offer(ids[0], 'first of the list');
	return [...offered].map(([id, why]) => reader(id, why));
}

/** Where copies lead to, and where what comes back of them goes. */
export type ProofSite = Pick<Settings, 'publicUrl'> & Pick<Providers, 'returnDomain'>;

/** Makes every copy of one reader. Null where the sheet does not go to that person. */
export async function proofOf(
	db: Db,
	{ publicUrl, returnDomain }: ProofSite,
	user: User,
	said: Sheet,
	personId: number
): Promise<Proof | null> {
	const planned = await planSheet(db, user, said);
	const sheet = await withNewest(db, said, planned.zone);
	const { roster, manifest } = planned;
	const recipient = manifest.recipients.find((r) => r.personId === personId);
	if (!recipient) return null;
	const sender = await readSender(db, user.personId);
	const district = await readDistrict(db);
	const frame = await frameOf(db, sender, await ownFiles(db, user, sheet), {
		...{ leavesAt: planned.moment.at, zone: planned.zone, dispatchId: null },
		asks: await asksOf(db, sheet.invitation, sheet.timing.clock)
	});
	const letters = lettersOf(sheet.wording, frame);
	const book = await planBook(db, user, sheet.wording);
	const link = linkLike(publicUrl);
	const language = roster.person(personId)?.language ?? 'en';

	function by<T>(way: Way, make: (copy: LetterCopy, planned: PlannedCopy) => T): ProofOf<T> | null {
		const copy = manifest.copies.find(
			(c) => c.way === way && (c.personId === personId || c.alsoFor.includes(personId))
		);
		if (!copy) {
			const reason = manifest.notByWay.find((n) => n.way === way && n.personId === personId);
			return reason ? { ok: false, why: reasonText(reason.reason) } : null;
		}
		const facts = plannedFacts(roster, book, manifest, copy);
		const reader = roster.person(copy.personId)?.language ?? language;
		return {
			ok: true,
			address: copy.address,
			copy: make({ facts, language: reader, link, mayStop: facts.students.length > 0 }, copy)
		};
	}
	const email = by('email', (copy): ProofEmail => {
		const letter = letters.email(copy);
		return {
			...letter,
			from: `${sender.name}, ${district.name} <${district.mailFrom}>`,
			answers:
				sheet.kind === 'announcement'
					? 'none: it is one-way'
					: `an address of this copy’s own at ${returnDomain}, passed on to ${sheet.letter.replyTo.trim() || sender.address || 'nobody: no address of yours is on file'}`,
			returns: `to an address of this copy’s own at ${returnDomain}`,
			page: withOwnPictures(letter),
			lines: flowed(letter.text),
			attached: frame.files.filter((f) => f.mode === 'attach')
		};
	});
	const text = by('text', (copy) => {
		const words = letters.text(copy);
		return { text: words, length: measureText(words), from: district.textFrom };
	});
	const inbox = by('inbox', (copy) => {
		const letter = letters.inbox({ ...copy, link: '' });
		return {
			...letter,
			html: letter.html.replace(/src="\/file\/(\d+)"/g, 'src="/write/file/$1"'),
			about: aboutLine(copy.facts, letter.language),
			note: frame.note ?? null,
			asks: pageAsks(frame.asks, letter.language, link),
			files: frame.files
		};
	});
	const made = [email, inbox].find((p) => p?.ok);
	return {
		reader: {
			personId,
			name: nameOf(roster, personId),
			part: partOf(roster, recipient),
			language: nameOfLanguage(language),
			why: ''
		},
		email,
		text,
		inbox,
		worded: made?.ok ? nameOfLanguage(made.copy.language) : nameOfLanguage(language)
	};
}

/** The letter's settings with the files that are the user's; others are named by the standing check. */
async function ownFiles(db: Query, user: User, sheet: Sheet): Promise<Sheet['letter']> {
	const own = new Set((await usableFiles(db, user, filesOfSheet(sheet))).map((f) => f.id));
	return { ...sheet.letter, files: sheet.letter.files.filter((f) => own.has(f.fileId)) };
}

const withOwnPictures = ({ html, pictureIds }: EmailLetter): string =>
	pictureIds.reduce(
		(page, id) => page.replaceAll(`cid:${pictureCid(id)}`, `/write/file/${id}`),
		html
	);

/** The writer's own address by a way, or why there is none. */
function ownAddress(planned: Planned, user: User, way: WayOut): ProofSent | string {
	const usable = usableAddress(planned.roster, user.personId, way);
	return 'reason' in usable
		? { ok: false, why: `It cannot be sent to you by ${way}: ${reasonText(usable.reason)}.` }
		: usable.address!;
}

/** A copy that its writer wants to see as one of its readers would get it. */
export interface ProofAsked {
	readonly sheet: Sheet;
	/** The reader. */
	readonly personId: number;
	readonly way: Way;
}

/** Hands a proof to the courier, to be sent to its writer as one reader would get it; "Proof:" stands before it. */
export async function sendProof(
	{ db, key, site }: { readonly db: Db; readonly key: Buffer; readonly site: ProofSite },
	user: User,
	{ sheet, personId, way }: ProofAsked
): Promise<ProofSent> {
	const wanted = filesOfSheet(sheet);
	if ((await usableFiles(db, user, wanted)).length < wanted.length) {
		return { ok: false, why: 'A picture or file of the sheet is not yours to send. Take it out.' };
	}
	const proof = await proofOf(db, site, user, sheet, personId);
	if (!proof) return { ok: false, why: 'The sheet does not go to that person any more.' };
	const made = proof[way];
	if (!made) return { ok: false, why: `${proof.reader.name} gets no copy by ${way}.` };
	if (!made.ok)
		return { ok: false, why: `${proof.reader.name} gets no copy by ${way}: ${made.why}.` };
	const address = way === 'inbox' ? null : ownAddress(await planSheet(db, user, sheet), user, way);
	if (address !== null && typeof address !== 'string') return address;
	const district = await readDistrict(db);
	const email = way === 'email' && proof.email?.ok ? proof.email.copy : null;
	const inbox = way === 'inbox' && proof.inbox?.ok ? proof.inbox.copy : null;
	const letter: SentProof = {
		subject: `Proof: ${email?.subject ?? inbox?.subject ?? ''}`,
		html: email?.html ?? inbox?.html ?? '',
		text: email?.text ?? (proof.text?.ok ? proof.text.copy.text : ''),
		language: email?.language ?? inbox?.language ?? 'en',
		pictureIds: [...(email?.pictureIds ?? [])],
		attachedIds: email?.attached.map((f) => f.fileId) ?? [],
		fromName: `${user.name}, ${district.name}`,
		replyTo: null
	};
	const proofId = await db.rows(proofs).add({
		userId: user.personId,
		way,
		address,
		forName: proof.reader.name,
		letter: JSON.stringify(letter),
		// For the inbox, being written down is being there.
		state: way === 'inbox' ? 'sent' : 'waiting',
		detail: '',
		madeAt: Math.round(await now(db))
	});
	return {
		ok: true,
		proofId,
		address: address ?? (await ownInboxLink(db, key, user.personId)).path
	};
}

export interface ProofState {
	readonly state: 'waiting' | 'sent' | 'failed';
	/** What the provider said. */
	readonly detail: string;
}

/** What became of a proof of one's own; null where there is none. */
export const proofState = async (
	db: Query,
	user: User,
	proofId: number
): Promise<ProofState | null> =>
	(await db.one<ProofState>(
		'SELECT state, detail FROM proof WHERE id = $proofId AND user_id = $user',
		{ proofId, user: user.personId }
	)) ?? null;
