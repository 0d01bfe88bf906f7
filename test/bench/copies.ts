/**
 * Writing 45,000 copies out, in a process of its own: `copies.ts <ours|replace>`. Prints one line
 * of JSON.
 *
 *   ours     merge fields, language, HTML and plain text of each, by the writer that the courier uses
 *   replace  plain string replacement of the same fields in the finished HTML and text of the language
 */
import { plainLetterhead } from '../../src/lib/core/copy/letterhead';
import { performance } from 'node:perf_hooks';
import { lettersOf } from '../../src/lib/core/copy/letter';
import { startingWordings } from '../../src/lib/core/copy/starting-wordings';
import { copyFacts, type CopyFacts } from '../../src/lib/core/copy/values';
import { draws } from '../unit/random';

const side = process.argv[2];
const copies = 45_000;
const languages = ['en', 'es', 'pt', 'vi', 'ar'] as const;
const { wording } = startingWordings.find((w) => w.name === 'Closure')!;
const frame = {
	signature: { name: 'Maren Quill', line: 'Communications, Brackwater Isles School District' },
	zone: 'America/New_York',
	leavesAt: Date.UTC(2027, 2, 9, 12),
	sectionBefore: false,
	sectionLine: false,
	files: [],
	letterhead: plainLetterhead,
	trace: null
};
const r = draws(45);
const names = ['Ana', 'Rui', 'Linh', 'Omar', 'Lucía', 'Tess', 'Bo', 'عمر'];
const made = Array.from({ length: copies }, (_, i) => {
	const facts: CopyFacts = copyFacts(
		{ givenName: r.pick(names), familyName: `Amaro ${i}` },
		Array.from({ length: r.int(1, 2) }, (__, n) => ({
			id: i * 2 + n,
			given: r.pick(names),
			full: `${names[n]!} Amaro ${i}`,
			grade: '7',
			school: 'Heron Landing',
			section: { name: 'Homeroom 2-A', period: 'all day', teachers: ['Chidi Okafor'] },
			own: false
		}))
	);
	return {
		facts,
		language: r.pick(languages),
		link: `http://localhost:4173/f/${String(i).padStart(22, 'x')}`,
		mayStop: true
	};
});

const letters = lettersOf(wording, frame);
let bytes = 0;
let ms = 0;
if (side === 'ours') {
	for (const copy of made.slice(0, 2000)) letters.email(copy);
	const start = performance.now();
	for (const copy of made) {
		const { subject, html, text } = letters.email(copy);
		bytes += subject.length + html.length + text.length;
	}
	ms = performance.now() - start;
} else {
	// One finished letter of each language, with marks in place of what differs.
	const marked = new Map(
		languages.map((language) => {
			const letter = letters.email({
				facts: copyFacts({ givenName: '@given@', familyName: '@family@' }, [
					{
						id: 1,
						given: '@students@',
						full: '@students@',
						grade: '7',
						school: '@school@',
						section: null,
						own: false
					}
				]),
				language,
				link: '@link@',
				mayStop: true
			});
			return [language, letter] as const;
		})
	);
	const fill = (template: string, { facts, link }: (typeof made)[number]) =>
		template
			.replaceAll('@given@', facts.given)
			.replaceAll('@students@', facts.students.map((s) => s.given).join(', '))
			.replaceAll('@school@', facts.students[0]!.school!)
			.replaceAll('@link@', link);
	const start = performance.now();
	for (const copy of made) {
		const { subject, html, text } = marked.get(copy.language)!;
		bytes += fill(subject, copy).length + fill(html, copy).length + fill(text, copy).length;
	}
	ms = performance.now() - start;
}
process.stdout.write(JSON.stringify({ ms, copies, megabytes: bytes / 1e6 }));
