import { z } from 'zod';
import type { WayOut } from '../core/roster/way';
import { seal, unseal } from './access/seal';
import { readSetting, writeSetting } from './db/district';
import type { Query } from './db/open';
import type { Settings } from './settings';

/** Whom we speak to outside; each empty where there is none. */
export interface Providers {
	/** smtp:// or smtps://, with user and password. */
	readonly smtpUrl: string;
	/** smpp:// or ssmpp://, with system id and password. */
	readonly smppUrl: string;
	/** Domain of the addresses that mail comes back to. */
	readonly returnDomain: string;
}

/** What the machine's own settings say of them. */
export type MachineProviders = Pick<Settings, keyof Providers>;

const settingKey = 'providers';
const purpose = 'provider';
/** As they are kept: addresses with a password in them are sealed, so that the database alone opens no mailbox. */
const keptSchema = z.object({
	smtp: z.string().default(''),
	smpp: z.string().default(''),
	returnDomain: z.string().default('')
});

const kept = async (db: Query): Promise<z.infer<typeof keptSchema>> =>
	keptSchema.parse((await readSetting(db, settingKey)) ?? {});

/** The providers in use: what the machine says of each comes first, then what the district has set. */
export async function readProviders(
	db: Query,
	key: Buffer,
	machine: MachineProviders
): Promise<Providers> {
	const own = await kept(db);
	// What was sealed under another key, as in a database that was put back without its own, is none.
	const open = (sealed: string): string =>
		sealed === '' ? '' : (unseal(key, purpose, sealed) ?? '');
	return {
		smtpUrl: machine.smtpUrl || open(own.smtp),
		smppUrl: machine.smppUrl || open(own.smpp),
		returnDomain: machine.returnDomain || own.returnDomain
	};
}

/** The ways out of the house for which somebody is there to carry. */
export const waysOut = ({ smtpUrl, smppUrl }: Providers): WayOut[] => [
	...(smtpUrl === '' ? [] : (['email'] as const)),
	...(smppUrl === '' ? [] : (['text'] as const))
];

/** Keeps what the district sets of its providers; what is not named stays. */
export async function keepProviders(
	tx: Query,
	key: Buffer,
	set: Partial<Providers>
): Promise<void> {
	const sealed = (url: string): string => (url === '' ? '' : seal(key, purpose, url));
	const { smtpUrl, smppUrl, returnDomain } = set;
	await writeSetting(tx, settingKey, {
		...(await kept(tx)),
		...(smtpUrl === undefined ? {} : { smtp: sealed(smtpUrl) }),
		...(smppUrl === undefined ? {} : { smpp: sealed(smppUrl) }),
		...(returnDomain === undefined ? {} : { returnDomain })
	});
}
