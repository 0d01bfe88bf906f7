import { read } from '../reading/reading';
import type { HashCost } from '../reading/tasks';

/** scrypt (RFC 7914), memory-hard: N = 2^15, r = 8 takes 32 MiB for each try. */
const cost: HashCost = { N: 2 ** 15, r: 8, p: 1 };

const text = (octets: Uint8Array) => Buffer.from(octets).toString('base64url');

/** "scrypt$N$r$p$salt$hash": the cost is kept with each hash, so that it can be raised later. It is made in threads of its own, so that no try holds up the database. */
export async function hashPassword(password: string): Promise<string> {
	const { salt, hash } = await read('hash', [password, cost]);
	return ['scrypt', cost.N, cost.r, cost.p, text(salt), text(hash)].join('$');
}

/** Whether a password fits a stored hash. A hash that cannot be read fits nothing. */
export async function passwordFits(password: string, stored: string): Promise<boolean> {
	const [kind, n, r, p, salt, hash] = stored.split('$');
	const own: HashCost = { N: Number(n), r: Number(r), p: Number(p) };
	const sound =
		[own.N, own.r, own.p].every((x) => Number.isInteger(x) && x > 0) && own.N <= 2 ** 20;
	if (kind !== 'scrypt' || !salt || !hash || !sound) return false;
	return read('hashFits', [
		password,
		own,
		Buffer.from(salt, 'base64url'),
		Buffer.from(hash, 'base64url')
	]);
}
