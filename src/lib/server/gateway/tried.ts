import { lookup } from 'node:dns/promises';
import { connect } from 'node:net';
import { plainNetwork } from './network';

/** The steps of trying a provider, in words; which of them there are, and in which order, is the protocol's. */
export type StepName =
	| 'Its name is found'
	| 'It is there'
	| 'The connection is encrypted'
	| 'It greets us'
	| 'It lets us in'
	| 'It takes the letter'
	| 'It takes the text'
	| 'A receipt comes back';

/** One step that was tried, and what came of it. */
export interface Step {
	readonly name: StepName;
	readonly ok: boolean;
	/** What was seen, or what is wrong and what to do. */
	readonly said: string;
}

/** What came of trying a provider: the steps up to the one that failed. */
export interface Tried {
	readonly steps: readonly Step[];
	/** Whether copies can leave by it. */
	readonly works: boolean;
}

/** So long a machine may take to answer at all, ms. */
const answerMs = 10_000;

/** Takes steps one after another up to the first that fails; each says what it saw, or throws in words. */
export async function taken(
	steps: readonly (readonly [name: StepName, take: () => Promise<string>])[]
): Promise<Step[]> {
	const done: Step[] = [];
	for (const [name, take] of steps) {
		try {
			done.push({ name, ok: true, said: await take() });
		} catch (error) {
			done.push({ name, ok: false, said: (error as Error).message });
			break;
		}
	}
	return done;
}

/** A machine by its name: the first two steps to every provider. */
export const foundAndThere = (
	host: string,
	port: number
): readonly (readonly [StepName, () => Promise<string>])[] => [
	[
		'Its name is found',
		async () => {
			try {
				const { address } = await lookup(host.replace(/^\[|\]$/g, ''));
				return address === host ? host : `${host} is ${address}`;
			} catch {
				throw new Error(`There is no machine by the name ${host}. Look for a slip in it.`);
			}
		}
	],
	[
		'It is there',
		() =>
			new Promise((resolve, reject) => {
				const socket = connect({ host: host.replace(/^\[|\]$/g, ''), port, timeout: answerMs });
				const end = (error: { code?: string; message: string } | null) => {
					socket.destroy();
					if (error === null) return resolve(`something listens at port ${port}`);
					reject(
						new Error(
							`At port ${port} of ${host} ${plainNetwork(error)
								.replace(/^(nothing answers).*/, '$1')
								.replace(/^it /, 'it ')}. Is it the right port, and does a firewall let us through?`
						)
					);
				};
				socket.once('connect', () => end(null));
				socket.once('timeout', () => end({ code: 'ETIMEDOUT', message: 'timeout' }));
				socket.once('error', end);
			})
	]
];
