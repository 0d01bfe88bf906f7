/** What a text by itself asks for: no more texts, texts again, or to be told who writes. */
const textCommands = ['stop', 'start', 'help'] as const;
export type TextCommand = (typeof textCommands)[number];
/** What a text did by itself: a command, the code of an open group, the answer by which somebody joins it, or to an invitation. */
export type TextDid = TextCommand | 'code' | 'join' | 'coming';

/** Words by what they ask for. */
export type CommandWords = Readonly<Partial<Record<TextCommand, readonly string[]>>>;

/**
 * The words that stop texts: those that 47 CFR 64.1200(a)(10) names for any sender, and the ones that
 * carriers ask for besides (common practice). Those that start them again are common practice; "yes"
 * is not among them, since it answers many a question. The same in the languages that families here read (from
 * memory), with their accents: without them they are other words.
 */
const words: Readonly<Record<TextCommand, readonly string[]>> = {
	stop: [
		...[
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
		...[
			'parar',
			'baja',
			'cancelar',
			'alto',
			'pare',
			'sair',
			'dừng',
			'dừng lại',
			'ngừng',
			'hủy',
			'huỷ'
		],
		...['توقف', 'أوقف', 'إيقاف', 'ايقاف', 'إلغاء', 'الغاء', 'قف']
	],
	start: [
		...['start', 'unstop', 'iniciar', 'reanudar', 'retomar', 'recomeçar', 'bắt đầu', 'tiếp tục'],
		...['ابدأ', 'ابدا', 'استئناف']
	],
	help: ['help', 'info', 'ayuda', 'ajuda', 'trợ giúp', 'مساعدة']
};

/** A text without its signs and case, as the words are compared. */
const bare = (text: string): string =>
	text
		.normalize('NFKC')
		.toLowerCase()
		.replace(/[^\p{L}\p{M}\p{N}\s-]/gu, '')
		.replace(/[\s-]+/g, ' ')
		.trim();

/** What a text asks for, where it is nothing but one of these words, or of the district's own; null for every other. */
export function textCommand(text: string, own: CommandWords = {}): TextCommand | null {
	const plain = bare(text);
	if (plain === '') return null;
	// Stopping goes before everything that is said by the same word.
	for (const command of textCommands) {
		const all = [...words[command], ...(own[command] ?? [])];
		if (all.some((word) => bare(word) === plain)) return command;
	}
	return null;
}
