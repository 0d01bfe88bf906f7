import { randomInt } from 'node:crypto';
import { z } from 'zod';
import { checkMailAddress } from '../../../core/format/mail-address';
import { writeDown } from '../../access/log';
import { isAllowed } from '../../access/may';
import { hashToken } from '../../access/tokens';
import type { User } from '../../access/user';
import { districtSchema, readDistrict, writeSetting } from '../../db/district';
import type { Db, Query } from '../../db/open';
import { tryMail } from '../../gateway/try-mail';
import { keepProviders, readProviders } from '../../providers';
import type { Said } from '../../said';
import type { Settings } from '../../settings';
import { line } from '../hand/fields';
import { notYours } from '../work/roles';
import { hostSchema, portSchema } from './host';
import { putHeard } from './heard';
import type { MailServer, TriedOut } from './types';

/** A domain as it stands behind the @ (RFC 1035 section 2.3.1, with letters of any script, RFC 5890). */
const domainSchema = line('The return domain', 253)
	.toLowerCase()
	.regex(
		/^(?=.{3,253}$)[\p{L}\p{N}]([\p{L}\p{N}-]*[\p{L}\p{N}])?(\.[\p{L}\p{N}]([\p{L}\p{N}-]*[\p{L}\p{N}])?)+$/u,
		'The return domain is a name like return.yourdistrict.example.'
	);

export const mailServerSchema = z.object({
	host: hostSchema('The mail server'),
	port: portSchema,
	encryption: z.enum(['at-once', 'after-greeting', 'never'], 'Say how it is encrypted.'),
	user: line('The user', 200).default(''),
	/** Empty for the one that is kept. */
	password: z.string().max(500).default(''),
	mailFrom: line('The sender', 320).refine(
		(typed) => checkMailAddress(typed).ok,
		'Write the address that families see as the sender.'
	),
	returnDomain: domainSchema
});
type Input = z.infer<typeof mailServerSchema>;

/** What everything about a provider stands on. */
export interface Place {
	readonly db: Db;
	readonly key: Buffer;
	readonly settings: Settings;
}

/** The mail server as it is set now, without its password. */
export async function mailServer({ db, key, settings }: Place): Promise<MailServer> {
	const { smtpUrl, returnDomain } = await readProviders(db, key, settings);
	const { mailFrom } = await readDistrict(db);
	const url = smtpUrl === '' ? null : new URL(smtpUrl);
	return {
		host: url?.hostname ?? '',
		port: url ? portOf(url) : 587,
		encryption:
			url?.protocol === 'smtps:'
				? 'at-once'
				: url && url.searchParams.get('requireTLS') !== 'true'
					? 'never'
					: 'after-greeting',
		user: url ? decodeURIComponent(url.username) : '',
		hasPassword: !!url?.password,
		...{ mailFrom, returnDomain },
		byMachine: { server: settings.smtpUrl !== '', returnDomain: settings.returnDomain !== '' },
		returnPort: settings.returnPort
	};
}

const portOf = (url: URL): number => Number(url.port || (url.protocol === 'smtps:' ? 465 : 587));

/** The address of a mail server; the password that is kept is used where none was typed and nothing else has changed that would hand it to another. */
function urlOf(input: Input, kept: string): string {
	const url = new URL(`${input.encryption === 'at-once' ? 'smtps' : 'smtp'}://${input.host}`);
	url.port = String(input.port);
	if (input.encryption === 'after-greeting') url.searchParams.set('requireTLS', 'true');
	const before = kept === '' ? null : new URL(kept);
	const same =
		before !== null &&
		before.hostname === url.hostname &&
		decodeURIComponent(before.username) === input.user;
	url.username = encodeURIComponent(input.user);
	url.password =
		input.password !== ''
			? encodeURIComponent(input.password)
			: same && input.user !== ''
				? before.password
				: '';
	return url.href;
}

/** The letter that is tried with; its figures are asked for on the page. */
const letterOf = (
	user: User,
	to: string,
	code: string,
	{ mailFrom, returnDomain }: Pick<Input, 'mailFrom' | 'returnDomain'>,
	district: string
) => {
	const text = `This letter was sent to try the mail server of ${district}.\n\nThe figures that show that it has arrived: ${code}`;
	return {
		messageId: `<try.${hashToken(code + Date.now()).slice(0, 24)}@${returnDomain}>`,
		date: new Date(),
		from: { name: district, address: mailFrom },
		to: { name: user.name, address: to },
		returnAddress: mailFrom,
		...{ replyTo: null, subject: `A letter that was tried: ${code}`, text, language: 'en' },
		html: `<p>${text.replace('\n\n', '</p><p>')}</p>`,
		...{ pictures: [], attached: [], stopLink: null, automatic: true }
	};
};

/** A mail address of the user's own. */
export async function ownMail(db: Query, user: User): Promise<string | null> {
	const row = await db.one<{ value: string }>(
		`SELECT value FROM address WHERE person_id = $id AND way = 'email' AND failing IS NULL ORDER BY id LIMIT 1`,
		{ id: user.personId }
	);
	return row?.value ?? null;
}

/**
 * Tries a mail server with a letter to whoever asks, and keeps it where every step went well, or where it is to be kept
 * all the same. Where the machine's settings name the server, that one is tried, and only the sender is kept.
 */
export async function setMailServer(
	{ db, key, settings }: Place,
	user: User,
	input: Input,
	keepAnyway: boolean
): Promise<Said<TriedOut>> {
	if (!isAllowed(user, 'settings')) return notYours;
	const to = await ownMail(db, user);
	if (to === null)
		return {
			ok: false,
			why: 'No mail address of yours works, so that no letter can be tried. Put one on your file.'
		};
	const { name } = await readDistrict(db);
	const now = await readProviders(db, key, settings);
	const returnDomain = settings.returnDomain || input.returnDomain;
	const url = settings.smtpUrl || urlOf(input, now.smtpUrl);
	const code = String(randomInt(100_000, 1_000_000));
	const tried = await tryMail(url, letterOf(user, to, code, { ...input, returnDomain }, name));
	const kept = tried.works || keepAnyway;
	if (kept)
		await db.write(async (tx) => {
			const district = await readDistrict(tx);
			await writeSetting(
				tx,
				'district',
				districtSchema.parse({ ...district, mailFrom: input.mailFrom })
			);
			await keepProviders(tx, key, {
				...(settings.smtpUrl === '' ? { smtpUrl: url } : {}),
				...(settings.returnDomain === '' ? { returnDomain } : {})
			});
			await putHeard(
				tx,
				'email',
				tried.works ? { by: user.personId, codeHash: hashToken(code) } : null
			);
			await writeDown(tx, { act: 'setting-changed', by: user, after: { chapter: 'mail-server' } });
		});
	return { ok: true, ...tried, kept };
}
