import type { FeedTried } from '../../../core/plan/check-feed';

/** A feed that was tried, as it is shown. */
export interface FeedShown extends FeedTried {
	/** The newest entries: a title, or how the words begin; when each says it was written (instant, ms). */
	readonly newestOf: readonly { readonly title: string; readonly at: number | null }[];
}
