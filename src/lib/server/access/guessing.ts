import { RateLimiterMemory, type RateLimiterRes } from 'rate-limiter-flexible';

/**
 * Slows whoever tries passwords: by the name that is tried and by the address it comes from, so that neither one name is
 * guessed from many places nor many names from one. Common practice; NIST SP 800-63B section 5.2.2 asks for a limit. It is held in
 * memory: a start anew forgets it, and whoever can start the server anew needs no password.
 */
const byName = new RateLimiterMemory({ points: 8, duration: 900, blockDuration: 300 });
const byAddress = new RateLimiterMemory({ points: 60, duration: 900, blockDuration: 300 });

const waitOf = (limit: RateLimiterRes | null): number => (limit ? limit.msBeforeNext : 0);

/** How long until this name may be tried from this address again, ms; 0 where it may be now. Counts the try. */
export async function mayTry(name: string, address: string): Promise<number> {
	const spent = (limiter: RateLimiterMemory, key: string) =>
		limiter.consume(key).then(
			() => 0,
			(refused: RateLimiterRes) => waitOf(refused)
		);
	return Math.max(
		await spent(byName, name.trim().toLowerCase().slice(0, 100)),
		await spent(byAddress, address)
	);
}

/** Forgets the tries of a name that has signed in, and gives the one of its address back. */
export async function signedIn(name: string, address: string): Promise<void> {
	await byName.delete(name.trim().toLowerCase().slice(0, 100));
	await byAddress.reward(address);
}
