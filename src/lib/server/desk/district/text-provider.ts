import { randomInt } from 'node:crypto';
import { z } from 'zod';
import { toE164 } from '../../../core/format/phone';
import { writeDown } from '../../access/log';
import { isAllowed } from '../../access/may';
import { hashToken } from '../../access/tokens';
import type { User } from '../../access/user';
import { districtSchema, readDistrict, writeSetting } from '../../db/district';
import { tryText } from '../../gateway/try-text';
import { keepProviders, readProviders } from '../../providers';
import type { Said } from '../../said';
import { line } from '../hand/fields';
import { notYours } from '../work/roles';
import { putHeard } from './heard';
import { hostSchema, portSchema } from './host';
import type { Place } from './mail-server';
import type { TextProvider, TriedOut } from './types';

export const textProviderSchema = z.object({
	host: hostSchema('The text provider'),
	port: portSchema,
	encrypted: z.enum(['yes', 'no']),
	// Fifteen and eight octets, with their end (SMPP 3.4 sections 4.1.1 and 5.2.1, 5.2.2).
	systemId: line('The system id', 15).min(1, 'Write the system id that the provider gave you.'),
	/** Empty for the one that is kept. */
	password: z.string().max(64).default(''),
	textFrom: line('The number', 20)
		.transform((typed) => (/[a-z]/i.test(typed) ? typed : typed.replace(/[\s().-]/g, '')))
		.pipe(
			z
				.string()
				.regex(
					/^(\+?\d{3,15}|(?=.*[A-Za-z])[A-Za-z0-9 ]{1,11})$/,
					'Texts come from a number, or from a name of 11 letters at most.'
				)
		),
	/** Where the text goes that is tried with. */
	to: z
		.string()
		.max(40)
		.transform((typed, problem) => {
			const number = toE164(typed);
			if (number === null) {
				problem.addIssue({
					code: 'custom',
					message: 'Write your own phone number with its area code, or with + and the country code.'
				});
				return z.NEVER;
			}
			return number;
		})
});
type Input = z.infer<typeof textProviderSchema>;

/** The text provider as it is set now, without its password. */
export async function textProvider({ db, key, settings }: Place): Promise<TextProvider> {
	const { smppUrl } = await readProviders(db, key, settings);
	const { textFrom } = await readDistrict(db);
	const url = smppUrl === '' ? null : new URL(smppUrl);
	return {
		host: url?.hostname ?? '',
		port: Number(url?.port || 2775),
		encrypted: url !== null && url.protocol !== 'smpp:',
		systemId: url ? decodeURIComponent(url.username) : '',
		hasPassword: !!url?.password,
		textFrom,
		byMachine: settings.smppUrl !== ''
	};
}

function urlOf(input: Input, kept: string): string {
	// What is no address of the web is read as one with http, or the host stays opaque.
	const password =
		input.password !== ''
			? input.password
			: kept !== '' &&
				  new URL(kept).hostname === input.host &&
				  decodeURIComponent(new URL(kept).username) === input.systemId
				? decodeURIComponent(new URL(kept).password)
				: '';
	return `${input.encrypted === 'yes' ? 'ssmpp' : 'smpp'}://${encodeURIComponent(input.systemId)}:${encodeURIComponent(password)}@${input.host}:${input.port}`;
}

/** Tries a text provider with a text to whoever asks, and keeps it where texts can leave by it, or where it is to be kept all the same. */
export async function setTextProvider(
	{ db, key, settings }: Place,
	user: User,
	input: Input,
	keepAnyway: boolean
): Promise<Said<TriedOut>> {
	if (!isAllowed(user, 'settings')) return notYours;
	const now = await readProviders(db, key, settings);
	const url = settings.smppUrl || urlOf(input, now.smppUrl);
	const { name } = await readDistrict(db);
	const code = String(randomInt(100_000, 1_000_000));
	const tried = await tryText(url, {
		...{ to: input.to, from: input.textFrom, reference: randomInt(1, 65_536) },
		text: `${name}: this text was sent to try it. Its figures: ${code}`.slice(-160)
	});
	const kept = tried.works || keepAnyway;
	if (kept)
		await db.write(async (tx) => {
			const district = await readDistrict(tx);
			await writeSetting(
				tx,
				'district',
				districtSchema.parse({ ...district, textFrom: input.textFrom })
			);
			if (settings.smppUrl === '') await keepProviders(tx, key, { smppUrl: url });
			await putHeard(
				tx,
				'text',
				tried.works ? { by: user.personId, codeHash: hashToken(code) } : null
			);
			await writeDown(tx, {
				act: 'setting-changed',
				by: user,
				after: { chapter: 'text-provider' }
			});
		});
	return { ok: true, ...tried, kept };
}
