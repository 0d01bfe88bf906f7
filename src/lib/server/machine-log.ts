import { acting } from './access/acting';

/** Which process a line is of. */
type From = 'web' | 'planner' | 'courier';

/** Whatever could be somebody's: mail addresses, numbers of phones, and what stands in quotes. */
const anybodys = [
	[/[^\s<>"'“”]+@[^\s<>"'“”]+/g, '<address>'],
	[/\+?\d(?:[\s().-]{0,2}\d){6,}/g, '<number>'],
	[/“[^”]*”|"[^"]*"|'[^'\n]*'|`[^`]*`/g, '<quoted>']
] as const;

/** A text without addresses and words of anybody. */
export const withoutPrivate = (text: string): string =>
	anybodys.reduce((said, [what, sign]) => said.replace(what, sign), text).slice(0, 2000);

/** Where an error came about, frame by frame: places in our files, no values. */
const framesOf = ({ stack = '' }: Error): string[] =>
	stack
		.split('\n')
		.filter((line) => /^\s+at /.test(line))
		.slice(0, 12)
		.map((line) => line.trim());

/**
 * Says a line to whoever runs the machine, as JSON on the process's output: when, which process, the number of the
 * request it was in (the same as in the answer's `x-request`), and what, without addresses or words of anybody.
 */
export function tellMachine(from: From, says: string, error?: unknown): void {
	const line = {
		at: new Date().toISOString(),
		level: error === undefined ? 'info' : 'error',
		from,
		request: acting()?.request,
		says: withoutPrivate(says),
		...(error === undefined
			? {}
			: error instanceof Error
				? { error: withoutPrivate(error.message), name: error.name, frames: framesOf(error) }
				: { error: withoutPrivate(String(error)) })
	};
	const out = error === undefined ? process.stdout : process.stderr;
	out.write(`${JSON.stringify(line)}\n`);
}
