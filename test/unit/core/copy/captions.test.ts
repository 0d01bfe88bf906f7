import { expect } from 'chai';
import { captionsOf } from '../../../../src/lib/core/copy/captions';

/** The beginning and end of each cue, ms, by the grammar of the standard (w3.org/TR/webvtt1, section 4.2, "mm:ss.ttt"). */
const times = (vtt: string): [number, number][] =>
	[...vtt.matchAll(/^(\d\d):([0-5]\d)\.(\d{3}) --> (\d\d):([0-5]\d)\.(\d{3})$/gm)].map((m) => [
		Number(m[1]) * 60_000 + Number(m[2]) * 1000 + Number(m[3]),
		Number(m[4]) * 60_000 + Number(m[5]) * 1000 + Number(m[6])
	]);

describe('captions', () => {
	it('show all that is said in its order, one after another, to the end', () => {
		const words = 'Good morning. The boats leave at nine tomorrow. '.repeat(20);
		const vtt = captionsOf(words, 95_500);
		expect(vtt.startsWith('WEBVTT\n\n')).to.equal(true);
		const cues = times(vtt);
		expect(cues.length).to.be.above(8);
		expect(cues[0]![0]).to.equal(0);
		expect(cues.at(-1)![1]).to.be.closeTo(95_500, 2);
		cues.slice(1).forEach(([from], i) => expect(from).to.equal(cues[i]![1]));
		const said = vtt
			.split('\n')
			.filter((l) => l !== '' && l !== 'WEBVTT' && !l.includes('-->'))
			.join(' ');
		expect(said).to.equal(words.trim());
	});

	it('hold no cue of their words, and none where nothing is said', () => {
		const hostile = captionsOf('<b>00:00.000 --> 00:09.000</b> & \n\nNOTE x', 9_000);
		expect(times(hostile)).to.have.length(1);
		expect(hostile).not.to.match(/<b>|\n\nNOTE/);
		expect(captionsOf('  ', 9_000)).to.equal('WEBVTT\n');
	});
});
