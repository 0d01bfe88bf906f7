import { port, serve } from '../http';
import { languages, translateWords } from './glossary';

/**
 * The translator: a translation service in appearance. It changes a few words and marks every text
 * as a draft, so that nobody takes it for a translation. Tags in angle brackets and fields in
 * braces stay as they are.
 */
const httpPort = port('TRANSLATOR_HTTP_PORT', 2880);

/** How it fails: `down` refuses, `slow` waits a minute, `nonsense` answers with something else. */
const faults = ['down', 'slow', 'nonsense'] as const;
type Fault = (typeof faults)[number];
let fault: Fault | null = null;

/** "‹draft›" in the language, so that the mark has its letters too. */
const marks: Readonly<Record<string, string>> = {
	es: '‹borrador›',
	pt: '‹rascunho›',
	vi: '‹bản nháp›',
	ar: '‹مسودة›'
};

/** Words between tags and fields are changed, these are not. */
const translated = (text: string, to: string): string =>
	`${marks[to] ?? `‹${to} draft›`} ${text
		.split(/(<[^>]*>|\{\{[^}]*\}\}|&[a-z]+;)/)
		.map((piece, i) => (i % 2 === 1 ? piece : translateWords(piece, to)))
		.join('')}`;

await serve(httpPort, {
	'GET /health': () => ({ languages, fault }),
	'POST /translate': async (_url, body) => {
		const { to, texts } = body as { to?: unknown; texts?: unknown };
		if (typeof to !== 'string' || !Array.isArray(texts)) throw new Error('to and texts are needed');
		if (fault === 'down') throw new Error('set to be down');
		if (fault === 'slow') await new Promise((r) => setTimeout(r, 60_000));
		if (fault === 'nonsense') return { texts: ['<9>?</8>'], cost: 'blue' };
		return { texts: texts.map((t) => translated(String(t), to.split('-')[0]!)), draft: true };
	},
	'POST /fault': (_url, body) => {
		const wanted = (body as { fault?: unknown }).fault ?? null;
		if (wanted !== null && !faults.includes(wanted as Fault)) {
			throw new Error(`fault must be null or one of ${faults.join(', ')}`);
		}
		fault = wanted as Fault | null;
		return { fault };
	}
});
process.stdout.write(`translator: at http://localhost:${httpPort}\n`);
