import { has } from '../../access/rights';
import { may } from '../../access/may';
import type { User } from '../../access/user';
import { chapters } from '../district/chapters';
import { chapterCodes } from '../district/subject';
import type { Chapter } from './types';

/** The chapters of Settings that somebody may open, in their order. */
export function chaptersOf(user: User): Chapter[] {
	return [
		...(may(user, 'settings')
			? [
					{ path: '/settings/start', name: 'First steps' },
					{ path: '/settings/mail', name: 'Mail server' },
					{ path: '/settings/texts', name: 'Text provider' },
					{ path: '/settings/identity', name: 'Identity provider' },
					{ path: '/settings/folder', name: 'Watched folder' },
					...chapterCodes.flatMap((code) => [
						{ path: `/settings/chapter/${code}`, name: chapters[code].name },
						...(code === 'quiet' ? [{ path: '/settings/schools', name: 'Schools' }] : [])
					])
				]
			: []),
		...(may(user, 'accounts')
			? [
					{ path: '/settings/work', name: 'People who work here' },
					{ path: '/settings/roles', name: 'What each role can do' }
				]
			: []),
		...(may(user, 'take-all-along')
			? [{ path: '/settings/leaving', name: 'Taking everything along' }]
			: []),
		...(has(user, 'log') ? [{ path: '/settings/log', name: 'What was done' }] : []),
		{ path: '/settings/me', name: 'Your sign-in' }
	];
}
