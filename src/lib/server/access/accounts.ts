import { role, signIn, type RoleName } from '../db/models/access';
import type { Query } from '../db/open';

/** Everybody who signs in here, or is to: who has an account, or a role that an account will have. */
export const worksHere = 'SELECT person_id FROM sign_in UNION SELECT person_id FROM role';

/** Someone who may sign in, and what for. */
export interface Account {
	readonly personId: number;
	readonly userName: string;
	/** As `hashPassword` makes it. */
	readonly passwordHash: string;
	/** "Communications", "Mathematics": stands under what they write. */
	readonly title: string;
	readonly role: RoleName;
	/** Null for the whole district. */
	readonly schoolId: number | null;
}

/** Lets a person sign in, in the caller's transaction, with a role that has no beginning: a clock that is set back locks nobody out. */
export async function openAccount(tx: Query, account: Account): Promise<void> {
	const { personId, userName, passwordHash, title, schoolId } = account;
	await tx.rows(signIn).add({ personId, userName, passwordHash, title });
	await tx.rows(role).add({ personId, role: account.role, schoolId, startsAt: 0 });
}
