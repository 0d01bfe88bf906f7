import { AsyncLocalStorage } from 'node:async_hooks';

/** What is known of a request while it is answered. */
export interface Acting {
	/** By which its lines in the machine's log are found. */
	readonly request: string;
	/** The number of the session it came in; null where nobody is signed in. */
	readonly sessionId: number | null;
	/** What was asked for without the right to it. */
	readonly refused: string[];
}

const store = new AsyncLocalStorage<Acting>();

/** Does a piece of work as part of a request: whatever it writes down bears the request's session. */
export const actingIn = <T>(acting: Acting, work: () => T): T => store.run(acting, work);

/** The request that is answered now; undefined for what is done by itself. */
export const acting = (): Acting | undefined => store.getStore();
