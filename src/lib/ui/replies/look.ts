/** The address of Replies with one thing of what is looked at put in, or out again where it is there; from its first page, with nothing open. */
export function lookHref(here: URLSearchParams, key: string, value: string): string {
	const next = new URLSearchParams(here);
	next.delete('open');
	next.delete('from');
	if (next.get(key) === value) next.delete(key);
	else next.set(key, value);
	return next.size === 0 ? '/replies' : `/replies?${next}`;
}

/** The address of those of a dispatch that say the same. */
export function alikeHref(here: URLSearchParams, likeness: string, dispatchId: number): string {
	const next = new URLSearchParams(here);
	next.delete('open');
	next.set('alike', likeness);
	next.set('dispatch', String(dispatchId));
	return `/replies?${next}`;
}

/** The address of the page of Replies that begins behind so many. */
export function fromHref(here: URLSearchParams, from: number): string {
	const next = new URLSearchParams(here);
	next.delete('open');
	next.set('from', String(from));
	return `/replies?${next}`;
}

/** The address of Replies with one conversation open, or shut again. */
export function openHref(here: URLSearchParams, id: number | null): string {
	const next = new URLSearchParams(here);
	next.delete('open');
	if (id !== null) next.set('open', String(id));
	return next.size === 0 ? '/replies' : `/replies?${next}`;
}
