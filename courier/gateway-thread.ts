import { parentPort, workerData } from 'node:worker_threads';
import type { Letter } from '../src/lib/server/gateway/mail-letter';
import { mailGateway } from '../src/lib/server/gateway/mail';
import type { Outcome } from '../src/lib/server/gateway/outcome';
import { textGateway, type TextMessage } from '../src/lib/server/gateway/text';
import { batchedPost } from './batched-post';
import type { FromThread, ThreadData, ToThread } from './threaded';

/** Speaks with one provider in a thread of its own; what it is told and says is in `threaded`. */
const { way, url, dkim = null } = workerData as ThreadData;
const port = parentPort!;
const say = batchedPost<FromThread>((batch) => port.postMessage(batch));

/** Receipts that wait to be told whether they were kept. */
const receipts = new Map<number, (kept: boolean) => void>();
let lastReceipt = 0;

const mail = way === 'email' ? mailGateway(url, dkim) : null;
const text =
	way === 'text'
		? textGateway(
				url,
				(receipt) =>
					new Promise((kept) => {
						lastReceipt += 1;
						receipts.set(lastReceipt, kept);
						say({ kind: 'receipt', id: lastReceipt, receipt });
					}),
				(down) => say({ kind: 'down', down })
			)
		: null;

/** Over the thread's border a Buffer becomes a plain array of octets. */
const whole = <T extends { readonly content: Uint8Array }>(file: T) => ({
	...file,
	content: Buffer.from(file.content.buffer, file.content.byteOffset, file.content.byteLength)
});

/** What is under way; on closing it gets a moment to be answered. */
let underWay = 0;
const closingMs = 400;

function send(message: Letter | TextMessage): Promise<Outcome> {
	if (text) return text.send(message as TextMessage);
	const letter = message as Letter;
	return mail!.send({
		...letter,
		pictures: letter.pictures.map(whole),
		attached: letter.attached.map(whole)
	});
}

/** What was last said of a provider that works. */
let remarked: string | null = null;
function remark(): void {
	const now = mail?.remark() ?? null;
	if (now !== remarked) say({ kind: 'remark', remark: (remarked = now) });
}

async function act(told: ToThread): Promise<void> {
	switch (told.kind) {
		case 'send':
			underWay += 1;
			say({ kind: 'outcome', id: told.id, outcome: await send(told.message) });
			underWay -= 1;
			return remark();
		case 'reachable':
			return say({ kind: 'done', id: told.id, why: await mail!.reachable() });
		case 'start':
			await text!.start();
			return say({ kind: 'done', id: told.id, why: null });
		case 'kept':
			receipts.get(told.id)?.(told.kept);
			receipts.delete(told.id);
			return;
		case 'close':
			mail?.close();
			await text?.close();
			for (let ms = 0; underWay > 0 && ms < closingMs; ms += 20) {
				await new Promise((go) => setTimeout(go, 20));
			}
			// What was said last is on its way when the next turn begins.
			setImmediate(() => port.close());
	}
}

port.on('message', (batch: readonly ToThread[]) => batch.forEach((told) => void act(told)));
say({ kind: 'ready' });
