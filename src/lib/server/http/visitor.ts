import { createHmac } from 'node:crypto';
import type { RequestEvent } from '@sveltejs/kit';
import type { Visitor } from '../desk/track/types';
import type { Services } from '../services';

/** Who asks, as far as a request shows. Address and program go in as a keyed hash. */
export function visitorOf(
	s: Services,
	{ request, getClientAddress }: Pick<RequestEvent, 'request' | 'getClientAddress'>
): Visitor {
	const header = (name: string) => request.headers.get(name) ?? '';
	const agent = header('user-agent').slice(0, 500);
	// The demo's readers stand on one machine and say where they would come from.
	const from = (s.settings.demo && header('x-forwarded-for')) || getClientAddress();
	return {
		method: request.method,
		agent,
		purpose: [header('sec-purpose'), header('purpose'), header('x-moz')].join(' ').trim(),
		key: createHmac('sha256', s.key)
			.update(`visitor:${from}\n${agent}`)
			.digest('base64url')
			.slice(0, 22)
	};
}
