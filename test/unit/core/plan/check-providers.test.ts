import { expect } from 'chai';
import { providerChecks } from '../../../../src/lib/core/plan/check-providers';

describe('ways that nobody outside is there to carry', () => {
	const byWay = { email: 1, text: 1204, inbox: 9 };

	it('are cautions with their number, and the inbox needs nobody', () => {
		expect(providerChecks(byWay, ['email', 'text'])).to.deep.equal([]);
		expect(providerChecks(byWay, [])).to.deep.equal([
			{
				level: 'caution',
				where: 'ways',
				text: '1 email will wait in the courier: no mail server is set. Set one in Settings, or choose another way.'
			},
			{
				level: 'caution',
				where: 'ways',
				text: '1,204 texts will wait in the courier: no text provider is set. Set one in Settings, or choose another way.'
			}
		]);
	});

	it('are not spoken of where nothing goes by them', () => {
		expect(providerChecks({ email: 3, text: 0, inbox: 1 }, ['email'])).to.deep.equal([]);
	});
});
