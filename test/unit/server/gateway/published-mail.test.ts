import { expect } from 'chai';
import { readReturned, type MailAnswer } from '../../../../src/lib/server/gateway/return-mail';

/** A letter as it is printed in a standard, with the line ends of the wire (RFC 5322 section 2.3). */
const wire = (text: string) => text.replace(/^\n/, '').replace(/\n/g, '\r\n');
async function answerIn(text: string, from = 'mary@example.net'): Promise<MailAnswer> {
	const { mail } = await readReturned(wire(text), from);
	if (mail.kind !== 'answer') throw new Error(`taken for ${mail.kind}`);
	return mail.answer;
}

describe('mail as the standards print it', () => {
	it('an answer, and an answer to it, with all that they name (RFC 5322 appendix A.2)', async () => {
		const reply = await answerIn(`
From: Mary Smith <mary@example.net>
To: John Doe <jdoe@machine.example>
Reply-To: "Mary Smith: Personal Account" <smith@home.example>
Subject: Re: Saying Hello
Date: Fri, 21 Nov 1997 10:01:10 -0600
Message-ID: <3456@example.net>
In-Reply-To: <1234@local.machine.example>
References: <1234@local.machine.example>

This is a reply to your hello.
`);
		expect(reply).to.deep.include({
			...{ fromName: 'Mary Smith', fromAddress: 'mary@example.net', subject: 'Re: Saying Hello' },
			...{ text: 'This is a reply to your hello.', messageId: '<3456@example.net>', whole: '' }
		});
		expect(new Set(reply.answersTo)).to.deep.equal(new Set(['<1234@local.machine.example>']));
		const again = await answerIn(`
To: "Mary Smith: Personal Account" <smith@home.example>
From: John Doe <jdoe@machine.example>
Subject: Re: Saying Hello
Date: Fri, 21 Nov 1997 11:00:00 -0600
Message-ID: <abcd.1234@local.machine.test>
In-Reply-To: <3456@example.net>
References: <1234@local.machine.example> <3456@example.net>

This is a reply to your reply.
`);
		expect(new Set(again.answersTo)).to.deep.equal(
			new Set(['<3456@example.net>', '<1234@local.machine.example>'])
		);
	});

	it('comments and white space wherever they may stand (RFC 5322 appendix A.5)', async () => {
		const odd = await answerIn(
			`
From: Pete(A nice \\) chap) <pete(his account)@silly.test(his host)>
To:A Group(Some people)
     :Chris Jones <c@(Chris's host.)public.example>,
         joe@example.org,
  John <jdoe@one.test> (my dear friend); (the end of the group)
Cc:(Empty list)(start)Hidden recipients  :(nobody(that I know))  ;
Date: Thu,
      13
        Feb
          1969
      23:32
               -0330 (Newfoundland Time)
Message-ID:              <testabcd.1234@silly.test>

Testing.
`,
			'pete@silly.test'
		);
		expect(odd).to.include({ text: 'Testing.', messageId: '<testabcd.1234@silly.test>' });
	});

	it('parts in order, without what stands before and behind them (RFC 2046 section 5.1.1)', async () => {
		const { text } = await answerIn(`
From: Delfina Amaro <mary@example.net>
Subject: Sample message
MIME-Version: 1.0
Content-type: multipart/mixed; boundary="simple boundary"

This is the preamble.  It is to be ignored, though it
is a handy place for composition agents to include an
explanatory note to non-MIME conformant readers.

--simple boundary

This is implicitly typed plain US-ASCII text.
It does NOT end with a linebreak.
--simple boundary
Content-type: text/plain; charset=us-ascii

This is explicitly typed plain US-ASCII text.
It DOES end with a linebreak.

--simple boundary--

This is the epilogue.  It is also to be ignored.
`);
		expect(text.replace(/\n+/g, '\n')).to.equal(
			'This is implicitly typed plain US-ASCII text.\nIt does NOT end with a linebreak.\nThis is explicitly typed plain US-ASCII text.\nIt DOES end with a linebreak.'
		);
	});

	it('of several versions the one that can be read (RFC 2046 section 5.1.4)', async () => {
		const { text } = await answerIn(`
From: Delfina Amaro <mary@example.net>
Subject: Formatted text mail
MIME-Version: 1.0
Content-Type: multipart/alternative; boundary=boundary42

--boundary42
Content-Type: text/plain; charset=us-ascii

   ... plain text version of message goes here ...

--boundary42
Content-Type: application/x-whatever

   ... fanciest version of same message goes here ...

--boundary42--
`);
		expect(text.trim()).to.equal('... plain text version of message goes here ...');
	});

	it('flowed lines joined again, with a space or without, and unstuffed (RFC 3676 sections 4.1, 4.4 and 4.7)', async () => {
		const flowedLetter = (body: string, more = '') => `
From: Delfina Amaro <mary@example.net>
Subject: Re: Tea
MIME-Version: 1.0
Content-Type: text/plain; charset=utf-8; format=flowed${more}

${body}
`;
		const { text } = await answerIn(
			flowedLetter(
				"`Take some more tea,' the March Hare said to Alice, very \nearnestly.\n\n`I've had nothing yet,' Alice replied in an offended tone, \n`so I can't take more.'\n\n`You mean you can't take LESS,' said the Hatter: `it's very \neasy to take MORE than nothing.'"
			)
		);
		expect(text.split('\n\n')).to.deep.equal([
			"`Take some more tea,' the March Hare said to Alice, very earnestly.",
			"`I've had nothing yet,' Alice replied in an offended tone, `so I can't take more.'",
			"`You mean you can't take LESS,' said the Hatter: `it's very easy to take MORE than nothing.'"
		]);
		expect((await answerIn(flowedLetter('我们都会 \n来。', '; delsp=yes'))).text).to.equal(
			'我们都会来。'
		);
		expect((await answerIn(flowedLetter(' From there we walk.'))).text).to.equal(
			'From there we walk.'
		);
		// The same exchange as a series of quotes, each flowed for itself; only what is not quoted is new.
		const quoted = await answerIn(
			flowedLetter(
				">>>Take some more tea.\n>>I've had nothing yet, so I can't take more.\n>You mean you can't take LESS, it's very easy to take \n>MORE than nothing.\nA cup, please."
			)
		);
		expect(quoted).to.include({ text: 'A cup, please.', quotes: true });
	});

	it('a complaint is no answer (RFC 5965 appendix B.1)', async () => {
		const { mail } = await readReturned(
			wire(`
From: <abusedesk@example.com>
Date: Thu, 8 Mar 2005 17:40:36 EDT
Subject: FW: Earn money
To: <abuse@example.net>
MIME-Version: 1.0
Content-Type: multipart/report; report-type=feedback-report;
     boundary="part1_13d.2e68ed54_boundary"

--part1_13d.2e68ed54_boundary
Content-Type: text/plain; charset="US-ASCII"
Content-Transfer-Encoding: 7bit

This is an email abuse report for an email message received from IP
192.0.2.1 on Thu, 8 Mar 2005 14:00:00 EDT.

--part1_13d.2e68ed54_boundary
Content-Type: message/feedback-report

Feedback-Type: abuse
User-Agent: SomeGenerator/1.0
Version: 1

--part1_13d.2e68ed54_boundary
Content-Type: message/rfc822
Content-Disposition: inline

From: <somespammer@example.net>
To: <Undisclosed Recipients>
Subject: Earn money
MIME-Version: 1.0
Content-type: text/plain
Message-ID: 8787KJKJ3K4J3K4J3K4J3.mail@example.net
Date: Thu, 02 Sep 2004 12:31:03 -0500

Spam Spam Spam
--part1_13d.2e68ed54_boundary--
`),
			'abusedesk@example.com'
		);
		expect(mail.kind).to.equal('automatic');
	});

	for (const [said, kind] of [
		['auto-replied', 'automatic'],
		['auto-generated', 'automatic'],
		['auto-replied; owner-email="a@b.example"', 'automatic'],
		['Auto-Notified (RFC 5436 section 2.7.1)', 'automatic'],
		['no', 'answer'],
		['no (written by hand)', 'answer']
	] as const) {
		it(`“Auto-Submitted: ${said}” makes it ${kind} (RFC 3834 section 5)`, async () => {
			const { mail } = await readReturned(
				wire(
					`From: Delfina Amaro <mary@example.net>\nSubject: Re: Boats\nAuto-Submitted: ${said}\n\nWe come.\n`
				),
				'mary@example.net'
			);
			expect(mail.kind).to.equal(kind);
		});
	}
});
