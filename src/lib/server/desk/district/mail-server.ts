import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { checkMailAddress } from '../../../core/format/mail-address';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import { readDistrict } from '../../db/district';
import type { Query } from '../../db/open';
import type { Letter } from '../../gateway/mail-letter';
import { tryMail } from '../../gateway/try-mail';
import { readProviders } from '../../providers';
import type { Said } from '../../said';
import { line } from '../hand/fields';
import { notYours } from '../work/roles';
import { paragraphsHtml } from '../staff/notices';
import { sixFigures } from './heard';
import { hostSchema, portSchema } from './host';
import { keepTried, passwordFor, type Place } from './keep-tried';
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
	encryption: z.enum(['at-once', 'after-greeting', 'if-offered'], 'Say how it is encrypted.'),
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
					? 'if-offered'
					: 'after-greeting',
		user: url ? decodeURIComponent(url.username) : '',
		hasPassword: !!url?.password,
		...{ mailFrom, returnDomain },
		byMachine: { server: settings.smtpUrl !== '', returnDomain: settings.returnDomain !== '' },
		returnPort: settings.returnPort
	};
}

const portOf = (url: URL): number => Number(url.port || (url.protocol === 'smtps:' ? 465 : 587));

/** The address of a mail server, with its user and password. */
function urlOf({ host, port, encryption, user, password }: Input, kept: string): string {
	const url = new URL(`${encryption === 'at-once' ? 'smtps' : 'smtp'}://${host}`);
	url.port = String(port);
	if (encryption === 'after-greeting') url.searchParams.set('requireTLS', 'true');
	url.username = encodeURIComponent(user);
	url.password = passwordFor(password, { host: url.hostname, user }, kept);
	return url.href;
}

/** The letter that is tried with: from the domain that every letter's returns go to, so that the server is seen to let us. Its figures are asked for on the page. */
function letterOf(
	user: User,
	to: string,
	figures: string,
	{ mailFrom, returnDomain, district }: { mailFrom: string; returnDomain: string; district: string }
): Letter {
	const text = `This letter was sent to try the mail server of ${district}.\n\nThe figures that show that it has arrived: ${figures}`;
	return {
		messageId: `<try.${randomUUID()}@${returnDomain}>`,
		date: new Date(),
		from: { name: district, address: mailFrom },
		to: { name: user.name, address: to },
		returnAddress: `try@${returnDomain}`,
		...{ replyTo: null, subject: `A letter that was tried: ${figures}`, text, language: 'en' },
		html: paragraphsHtml(text),
		...{ pictures: [], attached: [], stopLink: null, automatic: true }
	};
}

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
	place: Place,
	user: User,
	input: Input,
	keepAnyway: boolean
): Promise<Said<TriedOut>> {
	const { db, key, settings } = place;
	if (!isAllowed(user, 'settings')) return notYours;
	const to = await ownMail(db, user);
	if (to === null)
		return {
			ok: false,
			why: 'No mail address of yours works, so that no letter can be tried. Put one on your file.'
		};
	const { name: district } = await readDistrict(db);
	const returnDomain = settings.returnDomain || input.returnDomain;
	const url = settings.smtpUrl || urlOf(input, (await readProviders(db, key, settings)).smtpUrl);
	const { mailFrom } = input;
	const figures = sixFigures();
	const tried = await tryMail(
		url,
		letterOf(user, to, figures, { mailFrom, returnDomain, district })
	);
	const kept = tried.works || keepAnyway;
	if (kept)
		await keepTried(place, user, 'email', {
			sender: { mailFrom },
			providers: {
				...(settings.smtpUrl === '' ? { smtpUrl: url } : {}),
				...(settings.returnDomain === '' ? { returnDomain } : {})
			},
			figures: tried.works ? figures : null
		});
	return { ok: true, ...tried, kept };
}
