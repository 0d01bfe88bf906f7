import { randomInt } from 'node:crypto';
import { z } from 'zod';
import { toE164 } from '../../../core/format/phone';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import { readDistrict } from '../../db/district';
import { tryText } from '../../gateway/try-text';
import { readProviders } from '../../providers';
import type { Said } from '../../said';
import { line } from '../hand/fields';
import { notYours } from '../work/roles';
import { sixFigures } from './heard';
import { hostSchema, portSchema } from './host';
import { keepTried, passwordFor, type Place } from './keep-tried';
import type { TextProvider, TriedOut } from './types';

/** The form of the text provider; a number without a country's code is of `country`. */
export const textProviderSchema = (country: string) =>
	z.object({
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
				const number = toE164(typed, country);
				if (number === null) {
					problem.addIssue({
						code: 'custom',
						message:
							'Write your own phone number with its area code, or with + and the country code.'
					});
					return z.NEVER;
				}
				return number;
			})
	});
type Input = z.infer<ReturnType<typeof textProviderSchema>>;

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

/** The address of a text provider, with its system id and password. */
const urlOf = ({ host, port, encrypted, systemId, password }: Input, kept: string): string =>
	`${encrypted === 'yes' ? 'ssmpp' : 'smpp'}://${encodeURIComponent(systemId)}:${passwordFor(password, { host, user: systemId }, kept)}@${host}:${port}`;

/** Tries a text provider with a text to whoever asks, and keeps it where texts can leave by it, or where it is to be kept all the same. */
export async function setTextProvider(
	place: Place,
	user: User,
	input: Input,
	keepAnyway: boolean
): Promise<Said<TriedOut>> {
	if (!isAllowed(user, 'settings')) return notYours;
	const { db, key, settings } = place;
	const url = settings.smppUrl || urlOf(input, (await readProviders(db, key, settings)).smppUrl);
	const { textFrom } = input;
	const figures = sixFigures();
	const tried = await tryText(url, {
		...{ to: input.to, from: textFrom, reference: randomInt(1, 65_536) },
		text: `${(await readDistrict(db)).name}: this text was sent to try it. Its figures: ${figures}`
	});
	const kept = tried.works || keepAnyway;
	if (kept)
		await keepTried(place, user, 'text', {
			sender: { textFrom },
			providers: settings.smppUrl === '' ? { smppUrl: url } : {},
			figures: tried.works ? figures : null
		});
	return { ok: true, ...tried, kept };
}
