/** Where to go first, a page of our own: what a browser would take for another site, whatever it is written like, is not. */
export function ownPath(to: string | null): string {
	const home = '/week';
	if (to === null || !/^\/[\w\-./?=&%~+:,@]*$/.test(to)) return home;
	const here = 'http://here.invalid';
	const url = new URL(to, here);
	const elsewhere = url.origin !== here || url.pathname.startsWith('//');
	return elsewhere || url.pathname.startsWith('/sign-in') ? home : url.pathname + url.search;
}
