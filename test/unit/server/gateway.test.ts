import { expect } from 'chai';
import { encodeText } from '../../../src/lib/server/gateway/text';
import { addressFault, plainNetwork, sortSmtpError } from '../../../src/lib/server/gateway/mail';

const smtp = (command: string, responseCode: number, response: string) =>
	sortSmtpError(Object.assign(new Error(response), { command, responseCode, response }));

describe('what a mail server said', () => {
	it('is about the copy after RCPT TO and DATA, and about the server before', () => {
		expect(smtp('RCPT TO', 550, '550 5.1.1 no such mailbox here')).to.deep.equal({
			kind: 'refused',
			detail: 'the mailbox does not exist (550 5.1.1 no such mailbox here)',
			addressFault: 'the mailbox does not exist'
		});
		expect(smtp('DATA', 554, '554 5.7.1 looks like advertising')).to.include({
			kind: 'refused',
			addressFault: null
		});
		expect(smtp('RCPT TO', 451, '451 4.3.2 not taking mail now').kind).to.equal('deferred');
		expect(smtp('RCPT TO', 421, '421 4.3.2 closing').kind).to.equal('unavailable');
		expect(smtp('CONN', 554, '554 no').kind).to.equal('unavailable');
	});

	it('blames the address only for a permanent code that names it (RFC 3463 sections 3.2 and 3.3)', () => {
		expect(
			['5.1.1', '5.1.2', '5.1.3', '5.1.6', '5.2.1'].every((c) => addressFault(c) !== null)
		).to.equal(true);
		expect(
			['4.1.1', '5.2.2', '5.3.4', '5.7.1', ''].every((c) => addressFault(c) === null)
		).to.equal(true);
	});

	it('is said in plain words where there was no answer', () => {
		expect(plainNetwork({ code: 'ECONNREFUSED', message: 'x' })).to.equal(
			'nothing answers at its address'
		);
		expect(plainNetwork({ code: 'EDNS', message: 'x' })).to.equal('its address is not known');
	});
});

describe('text octets', () => {
	// Source: 3GPP TS 23.038 6.2.1 for the codes, SMPP 3.4 section 5.2.19 for data_coding 0 and 8.
	it('are unpacked septets for the default alphabet', () => {
		const { dataCoding, octets } = encodeText('Hi @ é [€]');
		expect(dataCoding).to.equal(0);
		expect([...octets]).to.deep.equal([
			0x48, 0x69, 0x20, 0x00, 0x20, 0x05, 0x20, 0x1b, 0x3c, 0x1b, 0x65, 0x1b, 0x3e
		]);
	});

	it('are UTF-16 big-endian otherwise', () => {
		const { dataCoding, octets } = encodeText('ã😀');
		expect(dataCoding).to.equal(8);
		expect(octets.toString('hex')).to.equal('00e3d83dde00');
	});
});
