import { expect } from 'chai';
import { encodeText } from '../../../../src/lib/server/gateway/text';
import { matterOf } from '../../../../src/lib/core/track/status-code';
import { plainNetwork } from '../../../../src/lib/server/gateway/network';
import { sortSmtpError } from '../../../../src/lib/server/gateway/smtp-reply';

const smtp = (command: string, responseCode: number, response: string) =>
	sortSmtpError(Object.assign(new Error(response), { command, responseCode, response }));

describe('what a mail server said', () => {
	it('is about the copy after RCPT TO and DATA, and about the server before', () => {
		expect(smtp('RCPT TO', 550, '550 5.1.1 no such mailbox here')).to.deep.equal({
			kind: 'refused',
			detail: 'the mailbox does not exist',
			said: '550 5.1.1 no such mailbox here',
			code: 'address',
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
		const all = (matter: string, lines: readonly string[]) =>
			expect(lines.map((l) => [l, matterOf(l)])).to.deep.equal(lines.map((l) => [l, matter]));
		// 5.1.10: RFC 7505 section 4.
		all('address', ['5.1.1', '5.1.2', '5.1.3', '5.1.6', '5.2.1', '5.1.10', '550 5.1.10 null MX']);
		all('else', ['4.1.1', '5.2.2', '5.3.4', '', '550 mailbox unavailable', '552 5.2.2 full']);
	});

	it('is the sender’s matter where it says so: the next mailbox there would refuse us as well', () => {
		for (const line of [
			'554 5.7.1 our rules refuse your sender',
			'550 5.7.26 unauthenticated mail is not taken (DMARC)',
			'550 5.1.8 sender address rejected',
			'554 no mail service here for you',
			'550 your host is on a block list',
			'550 relaying denied',
			// A code that names the mailbox beside words that name a rule.
			'550 5.1.1 blocked by policy'
		]) {
			expect([line, matterOf(line)]).to.deep.equal([line, 'sender']);
		}
		// What is said to MAIL FROM is about our sender, whatever the code.
		expect(smtp('MAIL FROM', 550, '550 5.1.1 who are you')).to.include({
			kind: 'refused',
			code: 'sender',
			addressFault: null
		});
	});

	it('does not slow the others down where one letter is to come again (greylisting)', () => {
		const busy = (reply: string) => {
			const o = smtp('RCPT TO', Number(reply.slice(0, 3)), reply);
			return o.kind === 'deferred' && o.tooMuch;
		};
		expect(busy('451 4.7.1 Greylisting in action, come back in five minutes')).to.equal(false);
		expect(busy('450 4.2.0 greylisted')).to.equal(false);
		expect(busy('451 4.7.0 too many messages, slow down')).to.equal(true);
		expect(busy('452 4.5.3 too many recipients')).to.equal(true);
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
