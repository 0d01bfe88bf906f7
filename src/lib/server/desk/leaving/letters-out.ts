import MailComposer from 'nodemailer/lib/mail-composer';
import { count } from '../../../core/copy/count';
import { pictureCid, type EmailLetter } from '../../../core/copy/letter';
import type { Way } from '../../../core/roster/way';
import { deliveryFacts } from '../../db/copy-facts';
import { readDistrict } from '../../db/district';
import { getContent } from '../../db/file-store';
import type { Db } from '../../db/open';
import { mailOf, type MailFile } from '../../gateway/mail-letter';
import { dispatchLetters, type StoredFile } from '../sheet/letters';

/** A letter on its way out, as RFC 5322 has it. */
export interface LetterOut {
	/** A name for it as a file, without an ending. */
	readonly name: string;
	readonly from: string;
	readonly at: Date;
	readonly octets: Buffer;
}

/** What letters are made with. */
export interface LettersHouse {
	readonly db: Db;
	readonly dataFolder: string;
	readonly publicUrl: string;
}

interface Example {
	readonly dispatchId: number;
	/** The copy that stands for all of its dispatch and language. */
	readonly id: number;
	readonly at: number;
	readonly email: number;
	readonly text: number;
	readonly inbox: number;
}

/** One copy of each dispatch and language of readers, by email where there is one, with how many there are like it. */
const examplesAfter = (db: Db, dispatchId: number): Promise<Example[]> =>
	db.all<Example>(
		`SELECT dispatch_id AS dispatchId, coalesce(min(iif(way = 'email', delivery.id, NULL)), min(delivery.id)) AS id,
			coalesce(sent_at, leaves_at, scheduled_at) AS at,
			sum(way = 'email') AS email, sum(way = 'text') AS text, sum(way = 'inbox') AS inbox
		FROM delivery JOIN person ON person.id = person_id JOIN dispatch ON dispatch.id = dispatch_id
		WHERE left_at IS NOT NULL AND dispatch_id IN (SELECT id FROM dispatch WHERE id > $dispatchId AND state != 'draft' ORDER BY id LIMIT 50)
		GROUP BY dispatch_id, language ORDER BY dispatch_id, language`,
		{ dispatchId }
	);

const many = (n: number, way: string): string[] => (n === 0 ? [] : [`${count(n)} ${way}`]);
const said = ({ email, text, inbox }: Example, language: string): string => {
	const all = email + text + inbox;
	const ways = [
		...many(email, 'by email'),
		...many(text, 'by text'),
		...many(inbox, 'in the inbox')
	];
	return `One of ${count(all)} ${all === 1 ? 'copy' : 'copies'} in ${language}: ${ways.join(', ')}`;
};

async function filesOf(
	dataFolder: string,
	files: readonly StoredFile[]
): Promise<(MailFile & { readonly id: number })[]> {
	const there: (MailFile & { readonly id: number })[] = [];
	for (const { id, name, type, hash } of files) {
		// What is past its time has gone from the disk; the letter is whole without it.
		const content = await getContent(dataFolder, hash).catch(() => null);
		if (content) there.push({ id, name, type, content });
	}
	return there;
}

/** A letter as it was written for some of its readers. */
interface Written {
	readonly letter: EmailLetter;
	readonly text: string;
	readonly example: { -readonly [K in keyof Example]: Example[K] };
}

async function composed(
	{ db, dataFolder }: Pick<LettersHouse, 'db' | 'dataFolder'>,
	{
		letter: { pictureIds, ...letter },
		example,
		at,
		sender,
		domain
	}: Pick<Written, 'letter' | 'example'> & {
		readonly at: Date;
		readonly sender: string;
		readonly domain: string;
	}
): Promise<Buffer> {
	const own = await dispatchLetters(db, example.dispatchId);
	const pictures = await filesOf(
		dataFolder,
		pictureIds.flatMap((id) => own.pictures.get(id) ?? [])
	);
	const to = await readerOf(db, example.id);
	const mail = mailOf({
		...letter,
		messageId: `<dispatch-${example.dispatchId}.${letter.language}@${domain}>`,
		date: at,
		from: { name: own.fromName, address: sender },
		to: { name: to.name, address: to.address ?? `reader-${to.personId}@inbox.invalid` },
		...{ returnAddress: sender, replyTo: null, stopLink: null },
		pictures: pictures.map((p) => ({ ...p, cid: pictureCid(p.id) })),
		attached: await filesOf(dataFolder, own.attached)
	});
	const headers = { ...mail.headers, Comments: said(example, letter.language) };
	return new MailComposer({ ...mail, headers } as never).compile().build();
}

/** For each dispatch one letter in each language, as one of its readers got it, the oldest first; and the same as a text where texts left. */
export async function* lettersOut(
	{ db, dataFolder, publicUrl }: LettersHouse,
	texts: (row: readonly string[]) => void = () => {}
): AsyncGenerator<LetterOut> {
	const district = await readDistrict(db);
	const domain = district.mailFrom.split('@')[1] ?? 'district.invalid';
	const sender = district.mailFrom || `letters@${domain}`;
	for (let after = 0; ;) {
		const examples = await examplesAfter(db, after);
		const newest = (await db.one<{ id: number | null }>(
			`SELECT max(id) AS id FROM (SELECT id FROM dispatch WHERE id > $after AND state != 'draft' ORDER BY id LIMIT 50)`,
			{ after }
		))!.id;
		if (newest === null) return;
		const facts = await deliveryFacts(
			db,
			examples.map((x) => x.id)
		);
		const written = new Map<string, Written>();
		for (const example of examples) {
			const { letters } = await dispatchLetters(db, example.dispatchId);
			const { facts: of, language } = facts.get(example.id)!;
			// No link of anybody's leaves: whoever reads it elsewhere is led to where one is asked for.
			const copy = { facts: of, language, link: `${publicUrl}/in`, mayStop: false };
			const letter = letters.email(copy);
			// Readers of a language in which nothing was written got the original.
			const name = `${String(example.dispatchId).padStart(6, '0')}-${letter.language}`;
			const like = written.get(name);
			if (like)
				for (const way of ['email', 'text', 'inbox'] as const) like.example[way] += example[way];
			else written.set(name, { letter, example: { ...example }, text: letters.text(copy) });
		}
		for (const [name, { letter, text, example }] of written) {
			if (example.text > 0)
				texts([String(example.dispatchId), letter.language, text, String(example.text)]);
			const at = new Date(example.at);
			yield {
				...{ name, from: sender, at },
				octets: await composed({ db, dataFolder }, { letter, example, at, sender, domain })
			};
		}
		after = newest;
	}
}

const readerOf = async (db: Db, deliveryId: number) =>
	(await db.one<{ personId: number; name: string; address: string | null }>(
		`SELECT person_id AS personId, given_name || ' ' || family_name AS name, iif(way = 'email', address, NULL) AS address
		FROM delivery JOIN person ON person.id = person_id WHERE delivery.id = $deliveryId`,
		{ deliveryId }
	))!;

interface AnswerRow {
	readonly id: number;
	readonly at: number;
	readonly way: Way;
	readonly name: string;
	readonly address: string;
	readonly personId: number | null;
	readonly subject: string;
	readonly words: string;
	readonly messageId: string | null;
	readonly dispatchId: number | null;
}

/** Where an answer came from, as a mail address: a phone and an inbox have none, and are given one that leads nowhere (RFC 2606 section 2). */
const mailboxOf = ({ address, way, personId }: AnswerRow): string =>
	address.includes('@')
		? address
		: way === 'text' && /^\+?\d+$/.test(address)
			? `${address.replace('+', '')}@phone.invalid`
			: `reader-${personId ?? 0}@inbox.invalid`;

/** What families wrote back, by whatever way, the oldest first. */
export async function* answersOut({ db, dataFolder }: LettersHouse): AsyncGenerator<LetterOut> {
	const district = await readDistrict(db);
	for (let after = 0; ;) {
		const rows = await db.all<AnswerRow>(
			`SELECT answer.id, answer.at, answer.way, coalesce(nullif(from_name, ''), given_name || ' ' || family_name, '') AS name,
				from_address AS address, person_id AS personId, coalesce(nullif(answer.subject, ''), conversation.subject) AS subject,
				coalesce(nullif(whole, ''), text) AS words, message_id AS messageId, dispatch_id AS dispatchId
			FROM answer JOIN conversation ON conversation.id = conversation_id LEFT JOIN person ON person.id = person_id
			WHERE answer.id > $after ORDER BY answer.id LIMIT 500`,
			{ after }
		);
		for (const row of rows) {
			const files = await db.all<StoredFile>(
				'SELECT id, name, type, bytes, hash FROM answer_file WHERE answer_id = $id AND hash IS NOT NULL ORDER BY id',
				{ id: row.id }
			);
			const from = mailboxOf(row);
			const at = new Date(row.at);
			const back = new MailComposer({
				messageId: row.messageId ?? `<answer-${row.id}@answers.invalid>`,
				...{ date: at, from: { name: row.name, address: from } },
				to: { name: district.name, address: district.mailFrom || 'letters@district.invalid' },
				...{ subject: row.subject, text: row.words },
				attachments: (await filesOf(dataFolder, files)).map((f) => ({
					...{ filename: f.name, contentType: f.type, content: f.content }
				})),
				headers: {
					Comments: `By ${row.way}${row.dispatchId === null ? '' : `, about dispatch ${row.dispatchId}`}`
				}
			});
			yield { name: `answer-${row.id}`, from, at, octets: await back.compile().build() };
		}
		if (rows.length < 500) return;
		after = rows.at(-1)!.id;
	}
}
