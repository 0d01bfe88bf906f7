import { RateLimiterMemory } from 'rate-limiter-flexible';

/** Links asked for from one address of the net: a waiting room asks for some, whoever tries addresses for thousands (common practice). */
const asks = new RateLimiterMemory({ points: 30, duration: 3_600 });

/** Whether somebody may ask for a link once more. Counts it. */
export const mayAskForLink = (address: string): Promise<boolean> =>
	asks.consume(address).then(
		() => true,
		() => false
	);
