import { lookup } from 'node:dns/promises';
import { connect } from 'node:net';
import { plainNetwork } from './network';

/** The steps of trying a provider, in words; which of them there are, and in which order, is the protocol's. */
type StepName =
	| 'Its name is found'
	| 'It is there'
	| 'The connection is encrypted'
	| 'It greets us'
	| 'It lets us in'
	| 'It takes the letter'
	| 'It takes the text'
	| 'A receipt comes back'
	| 'It says what it can do'
	| 'It can do what we need'
	| 'Its keys are there';

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

/** A step, and how it is taken: it says what it saw, or throws in words. */
export type ToTake = readonly [name: StepName, take: () => Promise<string>];

/** How long one step may take in all, ms, however slowly the other side goes on answering: a person waits. */
const stepMs = 30_000;
/** How long a machine may take to answer at all, ms. */
const answerMs = 10_000;

/** Waits for a step as long as it may take. */
async function within(take: () => Promise<string>, ms: number): Promise<string> {
	let late: NodeJS.Timeout | undefined;
	const tooLate = new Promise<never>((_resolve, reject) => {
		late = setTimeout(
			() =>
				reject(new Error('It did not come to an end with this in time. Try it once more later.')),
			ms
		);
	});
	try {
		return await Promise.race([take(), tooLate]);
	} finally {
		clearTimeout(late);
	}
}

/** Takes steps one after another up to the first that fails. */
export async function taken(steps: readonly ToTake[], ms = stepMs): Promise<Step[]> {
	const done: Step[] = [];
	for (const [name, take] of steps) {
		try {
			done.push({ name, ok: true, said: await within(take, ms) });
		} catch (error) {
			done.push({ name, ok: false, said: (error as Error).message });
			break;
		}
	}
	return done;
}

/** A machine's name as sockets take it: an IPv6 number without the brackets that addresses of the web have (RFC 3986 section 3.2.2). */
export const bareHost = ({ hostname }: URL): string => hostname.replace(/^\[|\]$/g, '');

/** A machine by its name: the first two steps to every provider. */
export const foundAndThere = (host: string, port: number): readonly ToTake[] => [
	[
		'Its name is found',
		async () => {
			try {
				const { address } = await lookup(host);
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
				const socket = connect({ host, port, timeout: answerMs });
				const refuse = (error: { code?: string; message: string }) => {
					socket.destroy();
					const why = plainNetwork(error).replace(/ at its address$/, '');
					reject(
						new Error(
							`At port ${port} of ${host} ${why}. Is it the right port, and does a firewall let us through?`
						)
					);
				};
				socket.once('connect', () => {
					socket.destroy();
					resolve(`something listens at port ${port}`);
				});
				socket.once('timeout', () => refuse({ code: 'ETIMEDOUT', message: '' }));
				socket.once('error', refuse);
			})
	]
];
