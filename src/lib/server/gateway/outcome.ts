import type { Matter } from '../../core/track/status-code';

/** What a provider said to one copy. The detail is shown as it is. */
export type Outcome =
	| { readonly kind: 'accepted'; readonly detail: string; readonly providerRef?: string }
	/** Not now; it is tried again. `tooMuch` where the provider is given more than it takes. */
	| {
			readonly kind: 'deferred';
			readonly detail: string;
			readonly tooMuch?: boolean;
			readonly code?: Matter;
	  }
	/** Not ever. `addressFault` is set where the address itself is at fault. */
	| {
			readonly kind: 'refused';
			readonly detail: string;
			readonly addressFault: string | null;
			readonly code?: Matter;
	  }
	/** It was handed over whole, and the provider went away before it said anything: it may have arrived. */
	| { readonly kind: 'unanswered'; readonly why: string }
	/** The provider cannot be spoken to; says nothing about the copy. */
	| { readonly kind: 'unavailable'; readonly why: string };
