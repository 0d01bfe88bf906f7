/** What a text by itself asks for: no more texts, texts again, or to be told who writes. */
export type TextCommand = 'stop' | 'start' | 'help';
/** What a text did by itself: a command, the code of an open group, the answer by which somebody joins it. */
export type TextDid = TextCommand | 'code' | 'join';

/**
 * The words that stop texts: those that 47 CFR 64.1200(a)(10) names for any sender, and the ones that
 * carriers ask for besides (common practice). Those that start them again are common practice; "yes"
 * is not among them, since it answers many a question.
 */
const words: Readonly<Record<TextCommand, readonly string[]>> = {
	stop: [
		'stop',
		'stopall',
		'stop all',
		'quit',
		'end',
		'revoke',
		'opt out',
		'optout',
		'cancel',
		'unsubscribe'
	],
	start: ['start', 'unstop'],
	help: ['help', 'info']
};

/** What a text asks for, where it is nothing but one of these words; null for every other. */
export function textCommand(text: string): TextCommand | null {
	const plain = text
		.normalize('NFKC')
		.toLowerCase()
		.replace(/[^\p{L}\p{N}\s-]/gu, '')
		.replace(/[\s-]+/g, ' ')
		.trim();
	for (const command of ['stop', 'start', 'help'] as const) {
		if (words[command].includes(plain)) return command;
	}
	return null;
}
