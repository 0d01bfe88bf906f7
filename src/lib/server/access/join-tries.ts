import { RateLimiterMemory } from 'rate-limiter-flexible';

/** Codes that are none, tried from one address on our page: a hall of people behind one address mistypes some, whoever searches tries thousands (common practice). */
const misses = new RateLimiterMemory({ points: 60, duration: 900, blockDuration: 900 });

/** Whether a code may be tried from an address. */
export async function mayTryCode(address: string): Promise<boolean> {
	const so = await misses.get(address);
	return so === null || so.consumedPoints < 60;
}

/** A code that was tried from an address is none. */
export async function codeMissed(address: string): Promise<void> {
	await misses.consume(address).catch(() => undefined);
}

/** Asks from one address: a hall of people joins from behind one, and whoever types others' numbers in types no more than that. */
const asks = new RateLimiterMemory({ points: 300, duration: 3_600 });

/** Whether somebody at an address may ask to join once more. Counts it. */
export const mayAsk = (address: string): Promise<boolean> =>
	asks.consume(address).then(
		() => true,
		() => false
	);
