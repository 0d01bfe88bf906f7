import { expect } from 'chai';
import { flowed } from '../../../../src/lib/core/copy/flowed';
import { draws } from '../../random';

/** A reader of format=flowed, by RFC 3676 section 4.1 to 4.4: unstuff, join what ends in a space. */
function unflow(text: string): string {
	const out: string[] = [];
	let open: string | null = null;
	for (const raw of text.split('\n')) {
		const line = raw.startsWith(' ') ? raw.slice(1) : raw;
		const whole: string = open === null ? line : open + line;
		// The signature's mark is never flowed (section 4.3).
		if (line.endsWith(' ') && line !== '-- ') open = whole;
		else {
			out.push(whole);
			open = null;
		}
	}
	if (open !== null) out.push(open);
	return out.join('\n');
}

describe('format=flowed', () => {
	it('breaks after a space, stuffs what could be taken for something else, and keeps the signature mark (RFC 3676 section 4.2 to 4.4)', () => {
		expect(flowed('a '.repeat(50).trim()).split('\n')[0]).to.match(/^(a )+$/);
		expect(flowed('> not a quote\nFrom here\n indented\n-- \nMaren')).to.equal(
			' > not a quote\n From here\n  indented\n-- \nMaren'
		);
		expect(flowed('end   ')).to.equal('end');
	});

	it('has no line over 78 characters but where one word is longer (RFC 5322 section 2.1.1), and reads back as it was (500 random texts)', () => {
		const r = draws(36);
		const words = [
			'boat',
			'a',
			'>',
			'From',
			'--',
			'Nguyễn',
			'مركب',
			'https://x.example/' + 'y'.repeat(90),
			'…'
		];
		for (let i = 0; i < 500; i += 1) {
			const text = Array.from({ length: r.int(1, 6) }, () =>
				Array.from({ length: r.int(0, 60) }, () => r.pick(words)).join(' ')
			).join('\n');
			const made = flowed(text);
			expect(unflow(made)).to.equal(text);
			for (const line of made.split('\n')) {
				// What looks like the signature’s mark is never left alone on a line.
				if (line.length > 78) expect(line.replace(/^ ?-- /, '').trim(), line).not.to.contain(' ');
			}
		}
	});
});
