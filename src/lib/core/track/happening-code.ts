import type { Matter } from './status-code';

/** What code decides by about an event, beside its kind and its words. */
export type HappeningCode =
	/** Sent although its reader has declined its kind: it is urgent. */
	| 'over-wish'
	/** Stopped by a person before it left. */
	| 'by-hand'
	/** Stopped because the end of its dispatch came. */
	| 'ended'
	/** Stopped because an older database was put back. */
	| 'put-back'
	/** Stopped because its reader asked for no more of its kind. */
	| 'unwanted'
	/** Stopped because its reader is no longer to be written to about these students. */
	| 'not-theirs'
	/** Stopped because its sender may no longer send it. */
	| 'right-lost'
	/** The mailbox passes its mail on, and the report is of the other one. */
	| 'passed-on'
	/** About an address that we did not write to. */
	| 'other-recipient'
	/** Came to an address of ours that is not for it. */
	| 'wrong-mailbox'
	/** Written by a machine that reports nothing. */
	| 'automatic'
	/** Whose matter a failure is. */
	| Matter;
