import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';

const derive = promisify(scrypt) as (
	password: string,
	salt: Buffer,
	length: number,
	options: { N: number; r: number; p: number; maxmem: number }
) => Promise<Buffer>;

/** scrypt (RFC 7914), memory-hard: N = 2^15, r = 8 takes 32 MiB for each try. */
const cost = { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 1024 * 1024 };

/** "scrypt$N$r$p$salt$hash": the cost is kept with each hash, so that it can be raised later. */
export async function hashPassword(password: string): Promise<string> {
	const salt = randomBytes(16);
	const hash = await derive(password.normalize('NFKC'), salt, 32, cost);
	return [
		'scrypt',
		cost.N,
		cost.r,
		cost.p,
		salt.toString('base64url'),
		hash.toString('base64url')
	].join('$');
}

/** Whether a password fits a stored hash. A hash that cannot be read fits nothing. */
export async function passwordFits(password: string, stored: string): Promise<boolean> {
	const [kind, n, r, p, salt, hash] = stored.split('$');
	if (kind !== 'scrypt' || !salt || !hash) return false;
	const wanted = Buffer.from(hash, 'base64url');
	const got = await derive(
		password.normalize('NFKC'),
		Buffer.from(salt, 'base64url'),
		wanted.length,
		{
			N: Number(n),
			r: Number(r),
			p: Number(p),
			maxmem: cost.maxmem
		}
	);
	return timingSafeEqual(got, wanted);
}
