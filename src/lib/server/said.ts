/** What an act that may be refused answers: what came of it, or why not, in words for whoever asked. */
export type Said<T = object> =
	({ readonly ok: true } & T) | { readonly ok: false; readonly why: string };
