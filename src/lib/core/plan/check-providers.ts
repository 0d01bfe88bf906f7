import { count } from '../copy/count';
import type { Way, WayOut } from '../roster/way';
import { caution, type Check } from './check';

const carried: Readonly<Record<WayOut, { one: string; many: string; by: string }>> = {
	email: { one: 'email', many: 'emails', by: 'mail server' },
	text: { one: 'text', many: 'texts', by: 'text provider' }
};

/** What of a sheet nobody outside is there to carry: it waits in the courier until somebody is. */
export function providerChecks(
	byWay: Readonly<Record<Way, number>>,
	waysOut: readonly WayOut[]
): Check[] {
	return (['email', 'text'] as const).flatMap((way) => {
		const n = byWay[way];
		if (n === 0 || waysOut.includes(way)) return [];
		const { one, many, by } = carried[way];
		return caution(
			'ways',
			`${count(n)} ${n === 1 ? one : many} will wait in the courier: no ${by} is set. Set one in Settings, or choose another way.`
		);
	});
}
