import { comingPhrases } from '../src/lib/core/copy/coming-phrases';
import { guestPhrases } from '../src/lib/core/copy/guest-phrases';
import { momentIn } from '../src/lib/core/copy/moment-in';
import { textWithoutNames } from '../src/lib/core/copy/without-names';
import { namesOnFile } from '../src/lib/server/db/person-names';
import { fillPhrase } from '../src/lib/core/copy/phrases';
import { slotWords } from '../src/lib/core/talk/invitation';
import { copyToken, guestToken } from '../src/lib/server/access/tokens';
import type { District } from '../src/lib/server/db/district';
import { coming, comingGuest, type ComingNoteKind } from '../src/lib/server/db/models/coming';
import { delivery } from '../src/lib/server/db/models/delivery';
import type { AutoNoteRow } from '../src/lib/server/db/models/talk';
import { standingOf } from '../src/lib/server/desk/invitations/answer';
import { askedBy, type Asked } from '../src/lib/server/desk/sheet/asked';
import type { Said } from './auto-said';
import type { House } from './house';

const kinds = [
	'coming-taken',
	'coming-up',
	'coming-choose',
	'coming-ask'
] as const satisfies readonly ComingNoteKind[];

export const isComing = (kind: AutoNoteRow['kind']): kind is ComingNoteKind =>
	(kinds as readonly string[]).includes(kind);

type Note = Pick<AutoNoteRow, 'language' | 'deliveryId' | 'comingId' | 'guestId'> & {
	readonly kind: ComingNoteKind;
};

/** ", Thu, Feb 4, 4:15 PM": the time of several that somebody comes to; empty where there is one for all. */
function slotIn(
	{ asking, zone }: Asked,
	slot: number,
	language: string,
	{ clock: style }: District
) {
	const chosen = asking.slots.find((s) => s.id === slot);
	return chosen ? `, ${slotWords(chosen, (at) => momentIn({ language, zone, style }, at))}` : '';
}

/** The page of whoever is told: the guest’s own, the letter’s, or the one on which a link is asked for. */
async function pageOf({ db, key, settings }: House, note: Note): Promise<string> {
	const { publicUrl } = settings;
	const guest =
		note.guestId === null ? undefined : await db.rows(comingGuest).one({ id: note.guestId });
	if (guest) return `${publicUrl}/i/me/${guestToken(key, guest)}`;
	const copy =
		note.deliveryId === null
			? undefined
			: await db.rows(delivery).one({ id: note.deliveryId }, ['nonce']);
	return copy ? `${publicUrl}/f/${copyToken(key, copy.nonce)}` : `${publicUrl}/in`;
}

/** What is said by itself of an invitation, as it stands when it is said; null where that is gone. */
export async function saidToInvited(
	home: House,
	district: District,
	note: Note
): Promise<Said | null> {
	const { db } = home;
	const words = comingPhrases(note.language);
	const row = note.comingId === null ? undefined : await db.rows(coming).one({ id: note.comingId });
	const guest =
		note.guestId === null ? undefined : await db.rows(comingGuest).one({ id: note.guestId });
	const copy =
		note.deliveryId === null
			? undefined
			: await db.rows(delivery).one({ id: note.deliveryId }, ['dispatchId']);
	const about = row?.dispatchId ?? guest?.dispatchId ?? copy?.dispatchId;
	const asked = about === undefined ? null : await askedBy(db, about);
	if (!asked) return null;
	const link = await pageOf(home, note);
	// Whoever is from outside reads the name of nobody on file.
	const subject = guest ? textWithoutNames(asked.subject, await namesOnFile(db)) : asked.subject;
	const parts = { subject, link, name: guest?.name ?? '' };
	const mail = (text: string, subject: string): Said => ({
		tag: words.tag,
		text: `${district.name}: ${text}`,
		letter: text,
		...{ subject, page: null }
	});
	if (note.kind === 'coming-choose') return mail(fillPhrase(words.choose, parts), asked.subject);
	if (note.kind === 'coming-ask') {
		const { ask, askSubject, askPage } = guestPhrases(note.language);
		return {
			...mail(fillPhrase(ask, parts), fillPhrase(askSubject, parts)),
			page: { words: askPage, href: link }
		};
	}
	if (!row) return null;
	const standing = await standingOf(db, asked, row);
	const filled = {
		...parts,
		slot: slotIn(asked, standing.slot, words.tag, district),
		n: String(standing.seated ? standing.people : standing.before)
	};
	// Who has given their places up since is not told that they have them.
	if (note.kind === 'coming-up' && !standing.seated) return null;
	const phrase =
		note.kind === 'coming-up'
			? words.up
			: !standing.comes
				? words.takenNot
				: standing.seated
					? words.taken
					: words.takenLine;
	return mail(fillPhrase(phrase, filled), fillPhrase(words.upSubject, parts));
}
