import { expect } from 'chai';
import { fallsUnder, lookupLanguage } from '../../../../src/lib/core/copy/language';

describe('the language of a copy', () => {
	it('is looked up as in the example of RFC 4647 section 3.4', () => {
		const range = 'zh-Hant-CN-x-private1-private2';
		const steps = [
			'zh-Hant-CN-x-private1-private2',
			'zh-Hant-CN-x-private1',
			'zh-Hant-CN',
			'zh-Hant',
			'zh'
		];
		// Each step is found while it is there, then the next shorter one; "x" alone never is.
		for (let i = 0; i < steps.length; i += 1) {
			expect(lookupLanguage([range], [...steps.slice(i), 'zh-Hant-CN-x'], 'en')).to.equal(steps[i]);
		}
		expect(lookupLanguage([range], ['zh-Hant-CN-x'], 'en')).to.equal('en');
	});

	it('is the first wanted one that fits, else the fallback; "*" is passed over (RFC 4647 section 3.4.1)', () => {
		expect(lookupLanguage(['fr-FR', 'zh-Hant'], ['zh', 'de'], 'en')).to.equal('zh');
		expect(lookupLanguage(['*', 'pt-BR'], ['en', 'pt'], 'en')).to.equal('pt');
		expect(lookupLanguage(['vi'], [], 'en')).to.equal('en');
		expect(lookupLanguage([], ['pt'], 'en')).to.equal('en');
		expect(lookupLanguage([''], ['pt'], 'en')).to.equal('en');
	});

	it('is found in any capitals and given as it is on offer (RFC 5646 section 2.1.1)', () => {
		expect(lookupLanguage(['PT-br'], ['pt-BR'], 'en')).to.equal('pt-BR');
	});

	it('falls under a range by basic filtering, as in RFC 4647 section 3.3.1', () => {
		expect(fallsUnder('de-DE', 'de-de')).to.equal(true);
		expect(fallsUnder('de-DE-1996', 'de-de')).to.equal(true);
		expect(fallsUnder('de-Deva', 'de-de')).to.equal(false);
		expect(fallsUnder('de-Latn-DE', 'de-de')).to.equal(false);
		expect(fallsUnder('vi', '*')).to.equal(true);
		expect(fallsUnder('pt', 'pt-BR')).to.equal(false);
	});
});
