import type { Matter } from '../../core/track/status-code';

/** What was said, in words of ours, and as it came. */
interface Said {
	readonly detail: string;
	readonly said?: string;
}

/** What a provider said to one copy. */
export type Outcome =
	| (Said & {
			readonly kind: 'accepted';
			readonly providerRef?: string;
			/** Of how many parts a text is. */
			readonly parts?: number;
	  })
	/** Not now; it is tried again. `tooMuch` where the provider is given more than it takes. */
	| (Said & {
			readonly kind: 'deferred';
			readonly tooMuch?: boolean;
			readonly code?: Matter;
	  })
	/** Not ever. `addressFault` is set where the address itself is at fault. */
	| (Said & {
			readonly kind: 'refused';
			readonly addressFault: string | null;
			readonly code?: Matter;
	  })
	/** It was handed over whole, and the provider went away before it said anything: it may have arrived. */
	| { readonly kind: 'unanswered'; readonly why: string }
	/** The provider cannot be spoken to; says nothing about the copy. */
	| { readonly kind: 'unavailable'; readonly why: string };

/** Why a provider that nobody has set cannot be spoken to. */
export const noneSet = 'none is set';

/** It in words, for what keeps no evidence: what came is in brackets behind. */
export const saidText = ({ detail, said }: Said): string => (said ? `${detail} (${said})` : detail);
