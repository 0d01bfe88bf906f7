import { z } from 'zod';
import { plainNetwork } from './network';

/** Translated strings, or why there are none in plain words. */
type Translated =
	| { readonly ok: true; readonly texts: readonly string[] }
	| { readonly ok: false; readonly why: string };

export interface TranslateGateway {
	translate(texts: readonly string[], from: string, to: string): Promise<Translated>;
}

const patienceMs = 15_000;
const biggestBytes = 2_000_000;

const answerSchema = z.object({ texts: z.array(z.string().max(100_000)).max(20_000) });

/** Asks a translation service over HTTP: POST {from, to, texts} is answered by {texts}, as many as were sent. */
export function translateGateway(
	url: string,
	{ timeoutMs = patienceMs }: { readonly timeoutMs?: number } = {}
): TranslateGateway {
	return {
		async translate(texts, from, to) {
			let response: Response;
			let body: string;
			try {
				response = await fetch(url, {
					method: 'POST',
					headers: { 'content-type': 'application/json', accept: 'application/json' },
					body: JSON.stringify({ from, to, texts }),
					signal: AbortSignal.timeout(timeoutMs)
				});
				body = await limited(response);
			} catch (error) {
				const e = error as Error & { cause?: { code?: string; message: string } };
				const why =
					e.name === 'TimeoutError'
						? `it did not answer within ${Math.round(timeoutMs / 1000)} seconds`
						: e instanceof TooBig
							? 'its answer is too big'
							: plainNetwork(e.cause ?? { message: e.message });
				return { ok: false, why };
			}
			if (!response.ok) return { ok: false, why: `it refused (${response.status})` };
			const parsed = answerSchema.safeParse(parseJson(body));
			return parsed.success
				? { ok: true, texts: parsed.data.texts }
				: { ok: false, why: 'its answer makes no sense' };
		}
	};
}

class TooBig extends Error {}

/** The body as text, read no further than it may be long. */
async function limited(response: Response): Promise<string> {
	const chunks: Uint8Array[] = [];
	let size = 0;
	const reader = response.body?.getReader();
	for (let read = await reader?.read(); read && !read.done; read = await reader!.read()) {
		size += read.value.length;
		if (size > biggestBytes) throw new TooBig();
		chunks.push(read.value);
	}
	return Buffer.concat(chunks).toString('utf8');
}

function parseJson(text: string): unknown {
	try {
		return JSON.parse(text);
	} catch {
		return undefined;
	}
}
