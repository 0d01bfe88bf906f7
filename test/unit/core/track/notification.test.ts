import { expect } from 'chai';
import { readNotification } from '../../../../src/lib/core/track/notification';
import {
	matterOf,
	readStatusCode,
	smtpReplyText
} from '../../../../src/lib/core/track/status-code';
import { readTextReceipt, textReceiptOutcome } from '../../../../src/lib/core/track/text-receipt';

const lines = (...l: string[]) => l.join('\r\n');

describe('delivery status notifications (RFC 3464)', () => {
	// Source: RFC 3464 appendix D; structure and codes as printed there, mail addresses replaced.
	it('reads the simple one (appendix D.1)', () => {
		const n = readNotification(
			lines(
				'Reporting-MTA: dns; cs.campus.example',
				'',
				'Original-Recipient: rfc822;reader@slip.example',
				'Final-Recipient: rfc822;reader@slip.example',
				'Action: failed',
				'Status: 4.0.0',
				'Diagnostic-Code: smtp; 426 connection timed out',
				'Last-Attempt-Date: Thu, 7 Jul 1994 17:15:49 -0400',
				''
			)
		);
		expect(n).to.deep.equal({
			ok: true,
			recipients: [
				{
					finalRecipient: 'reader@slip.example',
					originalRecipient: 'reader@slip.example',
					action: 'failed',
					status: '4.0.0',
					diagnostic: '426 connection timed out',
					text: 'the mail system gave no known reason'
				}
			]
		});
	});

	it('reads several recipients with comments in the status (appendix D.2)', () => {
		const n = readNotification(
			lines(
				'Reporting-MTA: dns; cs.campus.example',
				'',
				'Original-Recipient: rfc822;one@vnet.example',
				'Final-Recipient: rfc822;one@vnet.example',
				'Action: failed',
				'Status: 5.0.0 (permanent failure)',
				"Diagnostic-Code: smtp; 550 'one@vnet.example' is not a",
				' registered gateway user',
				'Remote-MTA: dns; vnet.example',
				'',
				'Original-Recipient: rfc822;two@host.example',
				'Final-Recipient: rfc822;two@host.example',
				'Action: delayed',
				'Status: 4.0.0 (host.example: host name lookup failure)',
				'',
				'Original-Recipient: rfc822;three@college.example',
				'Final-Recipient: rfc822;three@college.example',
				'Action: failed',
				'Status: 5.0.0',
				'Diagnostic-Code: smtp; 550 user unknown',
				'Remote-MTA: dns; college.example',
				''
			)
		);
		expect(
			n.ok && n.recipients.map((r) => [r.finalRecipient, r.action, r.status, r.text])
		).to.deep.equal([
			['one@vnet.example', 'failed', '5.0.0', 'the mailbox was not available'],
			['two@host.example', 'delayed', '4.0.0', 'the mail system gave no known reason'],
			['three@college.example', 'failed', '5.0.0', 'the mailbox was not available']
		]);
	});

	it('reads a delayed one with fields in another order and case (appendix D.4)', () => {
		const n = readNotification(
			lines(
				'Reporting-MTA: dns; relay.example',
				'',
				'final-recipient: rfc822;thomas@university.example',
				'STATUS: 4.0.0 (unknown temporary failure)',
				'Action: Delayed',
				''
			)
		);
		expect(n.ok && n.recipients[0]).to.include({ action: 'delayed', status: '4.0.0' });
	});

	it('says why a part is no notification', () => {
		for (const part of [
			'',
			'hello',
			'Reporting-MTA: dns; x.example',
			'Final-Recipient: rfc822; a@b.example\r\nAction: exploded\r\nStatus: 5.0.0'
		]) {
			expect(readNotification(part)).to.deep.equal({
				ok: false,
				why: 'The notification names no recipient with an action.'
			});
		}
	});
});

describe('enhanced status codes (RFC 3463)', () => {
	// Source: RFC 3463 sections 3.2 to 3.8, the sample codes listed there.
	const codes = [
		'1.0',
		'1.1',
		'1.2',
		'1.3',
		'1.4',
		'1.5',
		'1.6',
		'1.7',
		'1.8',
		'2.0',
		'2.1',
		'2.2',
		'2.3',
		'2.4',
		'3.0',
		'3.1',
		'3.2',
		'3.3',
		'3.4',
		'3.5',
		'4.0',
		'4.1',
		'4.2',
		'4.3',
		'4.4',
		'4.5',
		'4.6',
		'4.7',
		'5.0',
		'5.1',
		'5.2',
		'5.3',
		'5.4',
		'5.5',
		'6.0',
		'6.1',
		'6.2',
		'6.3',
		'6.4',
		'6.5',
		'7.0',
		'7.1',
		'7.2',
		'7.3',
		'7.4',
		'7.5',
		'7.6',
		'7.7'
	];
	it('has words of its own for each code of the standard', () => {
		const texts = codes.map((c) => readStatusCode(`5.${c}`)!.text);
		texts.forEach((t) => expect(t).not.to.equal('the mail system gave no known reason'));
		expect(new Set(texts).size).to.equal(codes.length);
	});

	it('falls back from an unknown detail to its subject, and from an unknown subject to no reason', () => {
		expect(readStatusCode('5.1.99')!.text).to.equal(readStatusCode('5.1.0')!.text);
		expect(readStatusCode('5.9.1')!.text).to.equal('the mail system gave no known reason');
	});

	it('finds the code in a reply, and takes no version or address for one', () => {
		expect(readStatusCode('550 5.1.1 no such mailbox')).to.include({ class: 5, rest: '1.1' });
		expect(readStatusCode('550-5.7.1 not allowed')).to.include({ class: 5, rest: '7.1' });
		for (const line of [
			'550 no such mailbox',
			'see 3.1.1',
			'host 5.1.1.9 said no',
			'5.1.1234',
			''
		]) {
			expect(readStatusCode(line), line).to.equal(null);
		}
	});

	it('reads plain SMTP replies (RFC 5321 section 4.2.3)', () => {
		expect(smtpReplyText('550 unknown user')).to.equal('the mailbox was not available');
		expect(smtpReplyText('552 too much mail data')).to.equal('the mailbox is full');
		expect(smtpReplyText('421 closing')).to.equal('the mail system there takes no mail now');
		expect(smtpReplyText('250 fine')).to.equal('the mail system gave no known reason');
	});
});

describe('text receipts (SMPP 3.4 appendix B)', () => {
	const read = (text: string) => readTextReceipt({ text });

	it('reads the format of the standard', () => {
		expect(
			read(
				'id:1234567890 sub:001 dlvrd:001 submit date:9809011200 done date:9809011230 stat:DELIVRD err:000 text:Hello'
			)
		).to.deep.equal({
			messageId: '1234567890',
			state: 'DELIVRD',
			error: '000'
		});
	});

	it('knows each state of table B-2, four of them for good', () => {
		const outcome = (s: string) =>
			textReceiptOutcome[read(`id:1 stat:${s} err:001`)!.state].outcome;
		expect(
			['DELIVRD', 'EXPIRED', 'DELETED', 'UNDELIV', 'ACCEPTD', 'UNKNOWN', 'REJECTD'].map(outcome)
		).to.deep.equal(['delivered', 'failed', 'failed', 'failed', 'open', 'open', 'failed']);
	});

	it('knows each number of message_state (section 5.2.28), and takes the optional parameters before the words', () => {
		const state = (messageState: number) =>
			readTextReceipt({ text: '', receiptedId: 'A7\0', messageState })?.state;
		expect([1, 2, 3, 4, 5, 6, 7, 8].map(state)).to.deep.equal([
			'ENROUTE',
			'DELIVRD',
			'EXPIRED',
			'DELETED',
			'UNDELIV',
			'ACCEPTD',
			'UNKNOWN',
			'REJECTD'
		]);
		expect(state(0)).to.equal(undefined);
		expect(
			readTextReceipt({ text: 'id:9 stat:UNDELIV err:004', receiptedId: 'A7\0', messageState: 2 })
		).to.deep.equal({ messageId: 'A7', state: 'DELIVRD', error: '004' });
	});

	it('takes nothing else for a receipt', () => {
		for (const text of [
			'',
			'YES',
			'id:1',
			'stat:DELIVRD',
			'id:1 stat:MAYBE',
			'id:1 stat:toString',
			'valid:1 prestat:DELIVRD'
		]) {
			expect(read(text), text).to.equal(null);
		}
	});
});

describe('whose matter a refusal is (RFC 3463 sections 3.2, 3.3, 3.8; the words: common practice)', () => {
	for (const [line, whose] of [
		['550 5.1.1 no such user', 'address'],
		['5.1.2 (bad host)', 'address'],
		['5.1.10', 'address'],
		['5.2.1 disabled', 'address'],
		['550 5.1.1 blocked by our policy', 'sender'],
		['550 5.7.1 relaying denied', 'sender'],
		['5.7.26', 'sender'],
		['5.1.8 bad sender', 'sender'],
		['5.4.6 loop', 'sender'],
		['5.2.2 mailbox full', 'else'],
		['5.3.4 too big, see our policy', 'sender'],
		// A code of another class, or a general one, says nothing: then the words do.
		['450 4.7.1 try later', 'else'],
		['4.1.1', 'else'],
		['550 5.0.0 no', 'else'],
		['550 5.0.0 listed as spam', 'sender'],
		['554 no', 'sender'],
		[' 554 no', 'sender'],
		['see 554 no', 'else'],
		['550 mailbox unavailable', 'else'],
		['550 not authorised', 'sender'],
		['', 'else']
	] as const) {
		it(`${line || 'nothing'}: ${whose}`, () => {
			expect(matterOf(line)).to.equal(whose);
		});
	}
});

describe('replies without a code of their own (RFC 5321 section 4.2.3)', () => {
	for (const [reply, words] of [
		['421 closing', 'the mail system there takes no mail now'],
		['450 busy', 'the mailbox was not available'],
		['550 no', 'the mailbox was not available'],
		['451 aborted', 'an error at the mail system there'],
		['554 no', 'the mail system there refused it'],
		['599 what', 'the mail system gave no known reason']
	] as const) {
		it(reply, () => {
			expect(smtpReplyText(reply)).to.equal(words);
		});
	}

	it('say of storage and mailbox what their enhanced codes say (RFC 3463)', () => {
		for (const [reply, code] of [
			['452 full', '4.3.1'],
			['552 full', '5.2.2'],
			['553 name', '5.1.3'],
			['421 down', '4.3.2']
		] as const)
			expect(smtpReplyText(reply)).to.equal(readStatusCode(code)!.text);
		// Up to three digits each (section 2), and nothing that only looks like a code.
		expect(readStatusCode('x 5.10.123 y')).to.include({ class: 5, rest: '10.123' });
		for (const line of ['5.1.1.2', '15.1.1', '3.1.1', '5.1', '5.1234.1'])
			expect(readStatusCode(line), line).to.equal(null);
		expect(smtpReplyText('550 5.1.1 no')).to.equal(readStatusCode('5.1.1')!.text);
	});
});

describe('the parts of a notification, as strange systems write them', () => {
	const one = (...fields: string[]) => {
		const read = readNotification(['Final-Recipient: rfc822; a@b.example', ...fields].join('\n'));
		return read.ok ? read.recipients[0] : read.why;
	};
	it('blocks are parted by empty lines, with CRLF or LF, with blanks in them; comments say nothing', () => {
		const read = readNotification(
			'\n \nReporting-MTA: dns; a\n \t\r\nFinal-Recipient: rfc822; a@b.example\nAction: (really) FAILED (so)\nStatus: 5.1.1 (no)\n\nFinal-Recipient: rfc822;c@d.example\r\nAction: delivered\r\n\r\n\r\n'
		);
		expect(
			read.ok && read.recipients.map((r) => [r.finalRecipient, r.action, r.status])
		).to.deep.equal([
			['a@b.example', 'failed', '5.1.1'],
			['c@d.example', 'delivered', '']
		]);
	});
	it('without an action, a recipient, or with an action nobody knows there is none', () => {
		const why = 'The notification names no recipient with an action.';
		expect(one('Status: 5.1.1')).to.equal(why);
		expect(one('Action: lost')).to.equal(why);
		expect(readNotification('Action: failed')).to.deep.equal({ ok: false, why });
		expect(readNotification('')).to.deep.equal({ ok: false, why });
	});
	it('a general status gives way to what the reply says, any other does not', () => {
		const at = (status: string, reply: string) => {
			const r = one('Action: failed', `Status: ${status}`, `Diagnostic-Code: smtp; ${reply}`);
			return typeof r === 'object' ? [r.status, r.text] : r;
		};
		expect(at('5.0.0', '550 5.1.1 no')).to.deep.equal(['5.1.1', readStatusCode('5.1.1')!.text]);
		expect(at('5.2.2', '550 5.1.1 no')).to.deep.equal(['5.2.2', readStatusCode('5.2.2')!.text]);
		expect(at('5.0.0', '451 aborted')).to.deep.equal([
			'5.0.0',
			'an error at the mail system there'
		]);
		expect(at('', '')).to.deep.equal(['', 'the mail system gave no known reason']);
	});
});

describe('text receipts, as vendors write them', () => {
	it('are read at the beginning or after a blank, in any capitals, and to the zero octet', () => {
		expect(readTextReceipt({ text: 'ID:7 STAT:delivrd ERR:000' })).to.deep.equal({
			messageId: '7',
			state: 'DELIVRD',
			error: '000'
		});
		expect(readTextReceipt({ text: 'stat:EXPIRED id:7' })).to.deep.equal({
			messageId: '7',
			state: 'EXPIRED',
			error: ''
		});
		expect(readTextReceipt({ text: 'err:1 xid:7 stat:DELIVRD' })).to.equal(null);
		expect(readTextReceipt({ text: 'id:7 xstat:DELIVRD' })).to.equal(null);
		expect(readTextReceipt({ text: '', receiptedId: '9\0\0x', messageState: 2 })).to.include({
			messageId: '9',
			state: 'DELIVRD'
		});
		expect(readTextReceipt({ text: 'id:7' })).to.equal(null);
		expect(readTextReceipt({ text: 'id:7 stat:toString' })).to.equal(null);
	});
});
