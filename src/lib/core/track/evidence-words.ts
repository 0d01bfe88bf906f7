import type { DeliveryState, EventKind, Evidence } from './evidence';
import { machineSignWords } from './visitor';

/** An event in words: what happened, what was said, and what speaks against it. */
export const evidenceText = ({
	detail,
	said,
	tries,
	sign
}: Pick<Evidence, 'detail' | 'said' | 'tries' | 'sign'>): string =>
	[
		tries ? `given up after ${tries} tries: ${detail}` : detail,
		said ? ` (${said})` : '',
		sign ? `: ${machineSignWords[sign]}` : ''
	].join('');

/** Why what is hasty says less. */
export const hastyWords =
	'within seconds of its leaving: more likely a machine that guards the mailbox';

/** The word of a kind of event, as lists show it. */
export const eventWords: Readonly<Record<EventKind, string>> = {
	scheduled: 'planned',
	accepted: 'sent',
	deferred: 'put off',
	unanswered: 'no answer',
	unsure: 'may have arrived',
	'once-more': 'once more',
	delivered: 'delivered',
	failed: 'failed',
	stopped: 'stopped',
	spared: 'not needed',
	noted: 'noted',
	'picture-loaded': 'picture loaded',
	'link-followed': 'link followed',
	'words-link-followed': 'link in the words followed',
	receipt: 'read receipt',
	opened: 'opened',
	played: 'played to its end',
	acknowledged: 'seen',
	answered: 'answered'
};

/** The word of a state, as lists show it. */
export const stateWords: Readonly<Record<DeliveryState, string>> = {
	held: 'held',
	planned: 'planned',
	spared: 'not needed',
	sent: 'sent',
	delivered: 'delivered',
	failed: 'failed',
	read: 'read',
	answered: 'answered'
};
