import { parentPort, workerData } from 'node:worker_threads';
import { mailGateway, type Letter } from '../src/lib/server/gateway/mail';
import type { Outcome } from '../src/lib/server/gateway/outcome';
import { textGateway, type TextMessage } from '../src/lib/server/gateway/text';
import { batchedPost } from './batched-post';
import type { FromThread, ThreadData, ToThread } from './threaded';

/** Speaks with one provider in a thread of its own; what it is told and says is in `threaded`. */
const { way, url } = workerData as ThreadData;
const port = parentPort!;
const say = batchedPost<FromThread>((batch) => port.postMessage(batch));

/** Receipts that wait to be told whether they were kept. */
const receipts = new Map<number, (kept: boolean) => void>();
let lastReceipt = 0;

const mail = way === 'email' ? mailGateway(url) : null;
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

function send(message: Letter | TextMessage): Promise<Outcome> {
	if (text) return text.send(message as TextMessage);
	const letter = message as Letter;
	return mail!.send({
		...letter,
		pictures: letter.pictures.map(whole),
		attached: letter.attached.map(whole)
	});
}

async function act(told: ToThread): Promise<void> {
	switch (told.kind) {
		case 'send':
			return say({ kind: 'outcome', id: told.id, outcome: await send(told.message) });
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
			port.close();
	}
}

port.on('message', (batch: readonly ToThread[]) => batch.forEach((told) => void act(told)));
