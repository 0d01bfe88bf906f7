import MailComposer from 'nodemailer/lib/mail-composer';
import { pictureCid } from '../../../core/copy/picture-cid';
import type { EmailLetter } from '../../../core/copy/letter';
import type { Db } from '../../db/open';
import { mailOf } from '../../gateway/mail-letter';
import { dispatchLetters } from '../sheet/letters';
import { filesThere } from './files-there';
import { districtMailbox, type LetterOut, type LettersHouse } from './letter-out';

/** Whose copy it is; a copy by another way than mail has an address that leads nowhere (RFC 2606 section 2). */
async function readerOf(db: Db, copyId: number) {
	const { name, personId, address } = (await db.one<{
		personId: number;
		name: string;
		address: string | null;
	}>(
		`SELECT person_id AS personId, given_name || ' ' || family_name AS name, iif(way = 'email', address, NULL) AS address
		FROM delivery JOIN person ON person.id = person_id WHERE delivery.id = $copyId`,
		{ copyId }
	))!;
	return { name, address: address ?? `reader-${personId}@inbox.invalid` };
}

/** A letter that is put together: of which copy, what it says, and what is remarked about it. */
interface Composed {
	readonly dispatchId: number;
	readonly copyId: number;
	/** When it left (instant, ms). */
	readonly at: number;
	readonly letter: EmailLetter;
	/** The one that it left with; that of the dispatch in its language where none is said. */
	readonly messageId?: string;
	readonly comments: string;
}

/** What a dispatch says, put together as the letter that one of its readers got. */
export async function composeLetter(
	{ db, dataFolder }: LettersHouse,
	{ dispatchId, copyId, at, comments, letter: { pictureIds, ...letter }, messageId }: Composed
): Promise<LetterOut> {
	const own = await dispatchLetters(db, dispatchId);
	const { address: from } = await districtMailbox(db);
	const pictures = await filesThere(
		dataFolder,
		pictureIds.flatMap((id) => own.pictures.get(id) ?? [])
	);
	const mail = mailOf({
		...letter,
		messageId: messageId ?? `<dispatch-${dispatchId}.${letter.language}@${from.split('@')[1]}>`,
		date: new Date(at),
		from: { name: own.fromName, address: from },
		to: await readerOf(db, copyId),
		...{ returnAddress: from, replyTo: null, stopLink: null },
		pictures: pictures.map((p) => ({ ...p, cid: pictureCid(p.id) })),
		attached: await filesThere(dataFolder, own.attached)
	});
	const headers = { ...mail.headers, Comments: comments };
	return {
		...{ from, at: new Date(at) },
		octets: await new MailComposer({ ...mail, headers } as never).compile().build()
	};
}
