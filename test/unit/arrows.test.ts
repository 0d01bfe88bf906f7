import { ESLint } from 'eslint';
import { expect } from 'chai';
import ts from 'typescript-eslint';

/** What the rule of the arrows (eslint.arrows.js, after docs/ARCHITECTURE.md) says of an import written into a file. */
// Types are not asked for it: reading them takes half a minute.
const eslint = new ESLint({ overrideConfig: ts.configs.disableTypeChecked });
async function faultsOf(filePath: string, code: string): Promise<string[]> {
	const [result] = await eslint.lintText(code, { filePath });
	return result!.messages.flatMap((m) =>
		m.ruleId === 'boundaries/element-types' ? m.message : []
	);
}

describe('the arrows between the rooms', () => {
	const desk = 'src/lib/server/desk';
	const wrong: readonly (readonly [string, string, string])[] = [
		['the core knows no database', 'src/lib/core/time/zone.ts', '../../server/db/open'],
		['who does not know the plan', 'src/lib/core/audience/facts.ts', '../plan/manifest'],
		['a drawer knows its own arrows only', `${desk}/track/record.ts`, '../reach/reach'],
		['a query is no type', 'src/lib/ui/reach/Shares.svelte', '$lib/server/desk/reach/reach'],
		['a page neither', 'src/routes/reach/+page.svelte', '$lib/server/desk/week/week'],
		['a place of Write knows the sheet', 'src/lib/ui/write/who/Who.svelte', '../when/When.svelte'],
		[
			'the server does not know the courier',
			`${desk}/send/stop.ts`,
			'../../../../../courier/claim'
		],
		['a stand-in knows protocols only', 'standin/http.ts', '../src/lib/core/time/zone']
	];
	for (const [why, file, target] of wrong) {
		it(`${why}: ${file}`, async () => {
			for (const line of [`import '${target}';`, `import type { X } from '${target}';`]) {
				const code = file.endsWith('.svelte')
					? `<script lang="ts">\n${line}\n</script>\n`
					: `${line}\n`;
				expect(await faultsOf(file, code), line).to.have.length(1);
			}
		});
	}

	it('lets the shapes of a drawer be imported where they are shown', async () => {
		const line = "import type { ReachShare } from '$lib/server/desk/reach/types';";
		expect(
			await faultsOf('src/lib/ui/reach/Shares.svelte', `<script lang="ts">\n${line}\n</script>\n`)
		).to.deep.equal([]);
	});
});
