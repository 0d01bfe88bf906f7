import { expect } from 'chai';
import { shortNameOf } from '../../../../src/lib/core/roster/short-name';

describe('the short name of a school', () => {
	it('is without what kind of school it is, unless it is then another’s or none', () => {
		const short = (name: string, ...taken: string[]) => shortNameOf(name, new Set(taken));
		expect(short('Heron Landing Elementary School')).to.equal('Heron Landing');
		expect(short('Lightkeeper High')).to.equal('Lightkeeper');
		expect(short('Brackwater School')).to.equal('Brackwater');
		expect(short('Heron Landing High School', 'Heron Landing')).to.equal(
			'Heron Landing High School'
		);
		expect(short('High School')).to.equal('High');
		expect(short('A School')).to.equal('A School');
		expect(short('The Academy of Boats')).to.equal('The Academy of Boats');
	});
});
