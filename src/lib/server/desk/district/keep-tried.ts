import type { WayOut } from '../../../core/roster/way';
import { writeDown } from '../../access/log';
import type { User } from '../../access/user';
import { readDistrict, writeDistrict, type District } from '../../db/district';
import type { Db } from '../../db/open';
import { keepProviders, type Providers } from '../../providers';
import type { Settings } from '../../settings';
import { changedDistrict } from './chapters';
import { putHeard } from './heard';

/** What everything about a provider stands on. */
export interface Place {
	readonly db: Db;
	readonly key: Buffer;
	readonly settings: Settings;
}

/** A provider as it is to be kept. */
interface Kept {
	/** The sender that families see. */
	readonly sender: Partial<District>;
	/** What the machine's settings leave to the district. */
	readonly providers: Partial<Providers>;
	/** What stands in what was sent to try it; null where nothing left. */
	readonly figures: string | null;
}

const chapterOf: Readonly<Record<WayOut, string>> = { email: 'mail-server', text: 'text-provider' };

/** Keeps a provider that was tried, or is wanted all the same. */
export const keepTried = (
	{ db, key }: Place,
	user: User,
	way: WayOut,
	{ sender, providers, figures }: Kept
): Promise<void> =>
	db.write(async (tx) => {
		await writeDistrict(tx, changedDistrict(await readDistrict(tx), sender));
		await keepProviders(tx, key, providers);
		await putHeard(tx, way, figures === null ? null : { by: user.personId, figures });
		await writeDown(tx, {
			...{ act: 'setting-changed', by: user },
			after: { chapter: chapterOf[way] }
		});
	});

/**
 * The password for a provider, as it stands in its address: the one that was typed, else the one that is kept; that one
 * is handed to no other machine, and not with another user.
 */
export function passwordFor(
	typed: string,
	to: { readonly host: string; readonly user: string },
	kept: string
): string {
	if (typed !== '') return encodeURIComponent(typed);
	if (kept === '' || to.user === '') return '';
	const before = new URL(kept);
	const same = before.hostname === to.host && decodeURIComponent(before.username) === to.user;
	return same ? before.password : '';
}
