import { Worker } from 'node:worker_threads';
import type { ReceiptParts } from '../src/lib/core/track/text-receipt';
import type { Letter } from '../src/lib/server/gateway/mail-letter';
import type { Dkim, MailGateway } from '../src/lib/server/gateway/mail';
import type { Outcome } from '../src/lib/server/gateway/outcome';
import type {
	IncomingText,
	ReceiptHandler,
	TextGateway,
	TextMessage
} from '../src/lib/server/gateway/text';
import { batchedPost } from './batched-post';
import type { WayOut } from '../src/lib/core/roster/way';

/**
 * Gateways in threads of their own: making up letters for the wire and speaking the protocols costs
 * more than all else the courier does, and must not keep outcomes from being written down.
 */

/** What a gateway's thread is started with. */
export interface ThreadData {
	readonly way: WayOut;
	readonly url: string;
	readonly dkim?: Dkim | null;
}

export type ToThread =
	| { readonly kind: 'send'; readonly id: number; readonly message: Letter | TextMessage }
	| { readonly kind: 'start' | 'reachable'; readonly id: number }
	/** Whether a receipt was kept. */
	| { readonly kind: 'kept'; readonly id: number; readonly kept: boolean }
	| { readonly kind: 'close' };

export type FromThread =
	| { readonly kind: 'outcome'; readonly id: number; readonly outcome: Outcome }
	| { readonly kind: 'done'; readonly id: number; readonly why: string | null }
	| { readonly kind: 'receipt'; readonly id: number; readonly receipt: ReceiptParts | IncomingText }
	/** It has begun; from here on, what is with it may have been handed over. */
	| { readonly kind: 'ready' }
	| { readonly kind: 'down'; readonly down: string | null }
	| { readonly kind: 'remark'; readonly remark: string | null };

interface Waiting {
	outcome(outcome: Outcome): void;
	done(why: string | null): void;
}

interface Listeners {
	readonly onReceipt: ReceiptHandler;
	/** Hears why the provider cannot be spoken to, and null when it can be again. */
	readonly onDown: (why: string | null) => void;
	/** Hears what there is to say of a provider that works. */
	readonly onRemark: (remark: string | null) => void;
	/** Hears that the thread has ended. */
	readonly onGone: () => void;
}

/** After a thread ended by itself, how long until another is started, ms. */
const againMs = 1_000;

/** A thread for one provider, started when it is first needed and again when it ends by itself; what was with it then has no outcome. */
function gatewayThread(
	file: string | URL,
	data: ThreadData,
	{ onReceipt, onDown, onRemark, onGone }: Listeners
) {
	let thread: { readonly post: (told: ToThread) => void } | null = null;
	let lastId = 0;
	let closing: (() => void) | null = null;
	const waiting = new Map<number, Waiting>();

	function start() {
		const worker = new Worker(file, { workerData: data });
		let ready = false;
		const mine = { post: batchedPost<ToThread>((batch) => worker.postMessage(batch)) };
		const gone = (why: string) => {
			if (thread !== mine) return;
			thread = null;
			const left = [...waiting.values()];
			waiting.clear();
			onDown(why);
			for (const { outcome, done } of left) {
				outcome({ kind: ready ? 'unanswered' : 'unavailable', why });
				done(why);
			}
			closing?.();
			onGone();
		};
		worker.on('message', (batch: readonly FromThread[]) => {
			ready = true;
			for (const said of batch) hear(said, mine.post);
		});
		worker.on('error', (error) => gone(`what speaks to it broke: ${error.message}`));
		worker.on('exit', () => gone('what speaks to it ended'));
		return mine;
	}

	function hear(said: FromThread, post: (told: ToThread) => void): void {
		switch (said.kind) {
			case 'outcome':
				waiting.get(said.id)?.outcome(said.outcome);
				waiting.delete(said.id);
				return;
			case 'done':
				waiting.get(said.id)?.done(said.why);
				waiting.delete(said.id);
				return;
			case 'receipt': {
				const answer = (kept: boolean) => post({ kind: 'kept', id: said.id, kept });
				onReceipt(said.receipt).then(answer, () => answer(false));
				return;
			}
			case 'down':
				onDown(said.down);
				return;
			case 'ready':
				return;
			case 'remark':
				onRemark(said.remark);
		}
	}

	const asked = (make: (id: number) => ToThread, wait: Partial<Waiting>) => {
		thread ??= start();
		lastId += 1;
		waiting.set(lastId, { outcome: () => {}, done: () => {}, ...wait });
		thread.post(make(lastId));
	};
	return {
		send: (message: Letter | TextMessage): Promise<Outcome> =>
			new Promise((outcome) => asked((id) => ({ kind: 'send', id, message }), { outcome })),
		ask: (kind: 'start' | 'reachable'): Promise<string | null> =>
			new Promise((done) => asked((id) => ({ kind, id }), { done })),
		close: (): Promise<void> =>
			new Promise((resolve) => {
				if (!thread) return resolve();
				closing = resolve;
				thread.post({ kind: 'close' });
			})
	};
}

/** Email through a thread of its own. `file` is the built `gateway-thread`. */
export function threadedMail(
	file: string | URL,
	url: string,
	dkim: Dkim | null = null
): MailGateway {
	let remark: string | null = null;
	const thread = gatewayThread(
		file,
		{ way: 'email', url, dkim },
		{
			onReceipt: () => Promise.resolve(false),
			onDown: () => {},
			onRemark: (said) => {
				remark = said;
			},
			onGone: () => {}
		}
	);
	return {
		send: thread.send,
		reachable: () => thread.ask('reachable'),
		remark: () => remark,
		close: () => void thread.close()
	};
}

/** Texts through a thread of its own. `file` is the built `gateway-thread`. */
export function threadedText(
	file: string | URL,
	url: string,
	onReceipt: ReceiptHandler
): TextGateway {
	let down: string | null = 'not connected yet';
	let closing = false;
	const start = async (): Promise<void> => void (await thread.ask('start'));
	const thread = gatewayThread(
		file,
		{ way: 'text', url },
		{
			onReceipt,
			onDown: (why) => {
				down = why;
			},
			onRemark: () => {},
			// With nothing to send, nothing else would start it again, and receipts would not come in.
			onGone: () => {
				if (!closing) setTimeout(() => void start(), againMs);
			}
		}
	);
	return {
		start,
		down: () => down,
		send: thread.send,
		close: () => {
			closing = true;
			return thread.close();
		}
	};
}
