import { expect } from 'chai';
import { roles, type RoleName } from '../../src/lib/server/db/models/access';
import { asEachRole, forgetColleagues } from './as-role';
import { stack, type Stack } from './stack';

/**
 * What may not be done is not offered, and what is offered opens: as each of the six roles every link that a page shows is
 * followed, and what is not offered of the settings is refused.
 */
describe('as each role', () => {
	let s: Stack;
	let cookies: ReadonlyMap<RoleName, string>;
	before(async () => {
		s = await stack();
		cookies = await asEachRole(s.db);
	});
	after(() => forgetColleagues(s.db));

	async function open(path: string, role: RoleName): Promise<{ status: number; html: string }> {
		const answer = await fetch(s.url + path, {
			...{ headers: { cookie: cookies.get(role)!, accept: 'text/html' }, redirect: 'follow' }
		});
		return { status: answer.status, html: await answer.text() };
	}
	/** Links of a page to pages of ours; what is handed out as a file is none. */
	const linksOf = (html: string): string[] =>
		[...html.matchAll(/<a\b[^>]*\bhref="(\/[^"#]*)"/g)]
			.map((m) => m[1]!.replaceAll('&amp;', '&'))
			.filter(
				(path) =>
					!/^\/(_app|stand-ins|sign-out)|\/(file|cards|(?<!week\/)list|export|sheets|out)(\/|\?|$)/.test(
						path
					)
			);

	for (const role of roles)
		it(`${role}: every link that is shown opens`, async () => {
			const seen = new Set(['/week', '/reach', '/people', '/replies', '/settings']);
			const wrong: string[] = [];
			const from = new Map<string, string>();
			// Of pages that are alike, for one person or dispatch each, a few are enough.
			const likes = new Map<string, number>();
			for (const path of seen) {
				const { status, html } = await open(path, role);
				if (from.has(path) && status !== 200) wrong.push(`${status} ${path} on ${from.get(path)}`);
				if (status !== 200) continue;
				for (const link of linksOf(html)) {
					const like = link.replace(/\d+/g, 'n').replace(/\?.*/, '');
					if (seen.has(link) || (likes.get(like) ?? 0) >= 2) continue;
					likes.set(like, (likes.get(like) ?? 0) + 1);
					seen.add(link);
					from.set(link, path);
				}
			}
			expect(wrong).to.deep.equal([]);
			expect(from.size).to.be.above(3);
		});

	it('a chapter of the settings that is not offered is refused, and one that is offered opens', async () => {
		const chapters = new Set<string>();
		const offered = new Map<RoleName, readonly string[]>();
		for (const role of roles) {
			const { html } = await open('/settings/me', role);
			const links = linksOf(html).filter((l) => l.startsWith('/settings/'));
			offered.set(role, links);
			for (const link of links) chapters.add(link);
		}
		expect(chapters.size).to.be.above(10);
		for (const role of roles)
			for (const chapter of chapters) {
				const { status } = await open(chapter, role);
				expect(status, `${role} ${chapter}`).to.equal(
					offered.get(role)!.includes(chapter) ? 200 : 403
				);
			}
	});
});
