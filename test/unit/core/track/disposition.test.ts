import { expect } from 'chai';
import { readDisposition } from '../../../../src/lib/core/track/disposition';
import { afterType, fieldsOf } from '../../../../src/lib/core/track/report-fields';

const part = (...lines: string[]) => readDisposition(lines.join('\r\n'));
const recipient = 'Final-Recipient: rfc822; reader@slip.example';
const said = (field: string) => {
	const read = part(recipient, `Disposition: ${field}`);
	return read.ok ? read.disposition : read.why;
};

describe('a read receipt (RFC 8098)', () => {
	it('is read as in the example of section 8, addresses replaced', () => {
		expect(
			part(
				'Reporting-UA: joes-pc.cs.campus.example; Foomail 97.1',
				'Original-Recipient: rfc822;Joe_Recipient@campus.example',
				'Final-Recipient: rfc822;Joe_Recipient@campus.example',
				'Original-Message-ID: <199509192301.23456@campus.example>',
				'Disposition: manual-action/MDN-sent-manually; displayed'
			)
		).to.deep.equal({
			ok: true,
			disposition: {
				finalRecipient: 'Joe_Recipient@campus.example',
				originalRecipient: 'Joe_Recipient@campus.example',
				type: 'displayed',
				byHand: true,
				modifiers: []
			}
		});
	});

	it('takes every type and mode of section 3.2.6, in any capitals, with comments and modifiers', () => {
		for (const type of ['displayed', 'deleted', 'dispatched', 'processed']) {
			expect(said(`automatic-action/MDN-sent-automatically; ${type.toUpperCase()}`)).to.include({
				type,
				byHand: false,
				originalRecipient: null
			});
		}
		expect(
			said('Manual-Action / MDN-sent-manually ;(by hand) deleted/Error, , warning')
		).to.deep.include({ type: 'deleted', byHand: true, modifiers: ['error', 'warning'] });
		expect(said('manual-action/MDN-sent-manually(a)(b);displayed')).to.include({
			type: 'displayed'
		});
	});

	it('says that it says nothing where recipient, field or type is missing or unknown', () => {
		const why = 'The read receipt does not say what happened to the letter.';
		for (const field of ['', 'displayed', 'manual-action; displayed', 'a/b; read', 'a/b; '])
			expect(said(field), field).to.equal(why);
		expect(part('Disposition: a/b; displayed')).to.deep.equal({ ok: false, why });
		expect(part(recipient)).to.deep.equal({ ok: false, why });
		expect(part('', recipient, 'Disposition: a/b; displayed').ok).to.equal(true);
	});
});

describe('the fields of a report', () => {
	it('are folded back, by CRLF or LF, and the first of a name counts (RFC 3464 section 2.1)', () => {
		const fields = fieldsOf(
			'A : one\r\n  two\nB:b\n\t c\r\na: again\r\nno field\r\n: none\r\nC:\r\n'
		);
		expect([...fields]).to.deep.equal([
			['a', 'one two'],
			['b', 'b c'],
			['c', '']
		]);
	});

	it('stand after their type (section 2.1.2)', () => {
		expect(afterType('rfc822; reader@slip.example ')).to.equal('reader@slip.example');
		expect(afterType('reader@slip.example')).to.equal('reader@slip.example');
	});
});
