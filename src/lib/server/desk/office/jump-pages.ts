import { fold } from '../../../core/format/fold';
import { may } from '../../access/may';
import type { User } from '../../access/user';
import type { JumpTo } from '../people/types';
import { chaptersOf } from './chapters';

/** A page, or what is done on it. */
interface Page {
	readonly kind: 'page' | 'deed';
	readonly name: string;
	readonly note: string;
	readonly path: string;
	/** Other words by which somebody looks for it. */
	readonly words: string;
}
const page = (name: string, path: string, words = '', note = ''): Page => ({
	...{ kind: 'page', name, path, words, note }
});
const deed = (name: string, path: string, words = ''): Page => ({
	...{ kind: 'deed', name, path, words, note: '' }
});

/** Other words for chapters of the settings. */
const chapterWords: Readonly<Record<string, string>> = {
	'/settings/mail': 'smtp email',
	'/settings/texts': 'sms smpp phone',
	'/settings/identity': 'openid oidc single sign on',
	'/settings/folder': 'roster nightly import oneroster',
	'/settings/chapter/boards': 'announcements front link open',
	'/settings/chapter/letterhead': 'logo colour footer email',
	'/settings/chapter/languages': 'translation words',
	'/settings/chapter/district': 'name zone clock country phone numbers',
	'/settings/schools': 'zone quiet hours school day clock',
	'/settings/work': 'accounts users colleagues invite',
	'/settings/roles': 'rights permissions',
	'/settings/leaving': 'export download csv mbox',
	'/settings/log': 'log audit history',
	'/settings/me': 'password second factor sessions dark look'
};

/** The pages that somebody may open, and what they may do there. */
const pagesOf = (user: User): Page[] => [
	...(may(user, 'write')
		? [
				deed('Write something new', '/write', 'message announcement send compose'),
				page('Kept audiences', '/write/kept', 'saved lists'),
				page('Manifest of the sheet', '/write/manifest', 'recipients list')
			]
		: []),
	page('Week', '/week', 'calendar load'),
	page('Month', '/week/month', 'calendar'),
	page('Report of a term', '/reach/term', 'principal coverage weeks cost pdf'),
	page('How good forecasts were', '/reach/forecasts', 'expect expected band judged Brier'),
	page('List of dispatches', '/week/list', 'search drafts sent scheduled'),
	page('Events and closures', '/week/events', 'calendar holidays no school'),
	page('Reach', '/reach', 'coverage read delivered'),
	page('People', '/people', 'families students'),
	page('Sections', '/people/sections', 'classes'),
	page('Groups', '/people/groups', 'teams houses codes'),
	page('Markers', '/people/markers', 'slips fees'),
	page('Families that nothing reaches', '/people/silent', 'silent unread unreached phone calls'),
	page('Addresses to mend', '/people/mend', 'failing bounced wrong'),
	page('Replies', '/replies', 'answers conversations'),
	...(may(user, 'bring-roster')
		? [deed('Bring a roster in', '/people/rosters', 'import upload oneroster csv')]
		: []),
	...(may(user, 'correct-people')
		? [deed('Put somebody new on file', '/people/new', 'add person student')]
		: []),
	...(may(user, 'operate') ? [page('Courier', '/courier', 'running health queue')] : []),
	...chaptersOf(user).map(({ path, name }) => page(name, path, chapterWords[path], 'Settings'))
];

/** As many as can be looked over at a glance. */
const most = 6;
const wordsOf = (text: string): string[] => fold(text).match(/[\p{L}\p{N}]+/gu) ?? [];

/** Pages and deeds of which each word of a search begins a word, those named so first. */
export function pagesNamed(user: User, search: string): JumpTo[] {
	const typed = wordsOf(search);
	if (typed.length === 0) return [];
	const begun = (text: string) => {
		const words = wordsOf(text);
		return typed.every((t) => words.some((w) => w.startsWith(t)));
	};
	const all = pagesOf(user);
	const named = all.filter((p) => begun(p.name));
	const meant = all.filter((p) => !named.includes(p) && begun(`${p.name} ${p.words} ${p.note}`));
	return [...named, ...meant].slice(0, most).map(({ kind, name, note, path }) => ({
		...{ key: path, kind, name, note, href: path }
	}));
}
