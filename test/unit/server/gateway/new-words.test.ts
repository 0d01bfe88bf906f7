import { expect } from 'chai';
import { readReturned } from '../../../../src/lib/server/gateway/return-mail';

/**
 * Letters in the shapes that mail programs give to answers: quoted above, below and between, HTML only, in the
 * families' languages. Their shapes are seen in the programs' letters (from memory, common practice); names and
 * words are invented.
 */
interface Shape {
	readonly shape: string;
	readonly plain?: string;
	readonly html?: string;
	readonly remains: string;
}

const quoted = '> The boat leaves at 4:10.\n>\n> Maren Quill\n';
const shapes: readonly Shape[] = [
	{ shape: 'nothing quoted', plain: 'We will be late.\n', remains: 'We will be late.' },
	{
		shape: 'quoted below, with who wrote when',
		plain: `Thank you.\n\nOn Tue, Mar 9, 2027 at 7:05 AM Maren Quill <a1.x@return.example> wrote:\n${quoted}`,
		remains: 'Thank you.'
	},
	{
		shape: 'who wrote broken into two lines',
		plain: `Thank you.\n\nOn Tue, Mar 9, 2027 at 7:05 AM Maren Quill, Brackwater Isles\n<a1.x@return.example> wrote:\n\n${quoted}`,
		remains: 'Thank you.'
	},
	{
		shape: 'who wrote broken into three lines',
		plain: `Thank you.\nOn Tuesday, 9 March 2027 at 07:05:12,\nMaren Quill, Brackwater Isles School District\n(a1.x@return.example) wrote:\n${quoted}`,
		remains: 'Thank you.'
	},
	{
		shape: 'quoted above, answered below',
		plain: `On 3/9/27 7:05 AM, Maren Quill wrote:\n${quoted}\nHe takes the 4:10.\n`,
		remains: 'He takes the 4:10.'
	},
	{
		shape: 'answered between what is quoted',
		plain: `On 9 Mar 2027, Maren Quill wrote:\n> Does he swim?\nYes, he does.\n> Does he need a coat?\nHe has one.\n`,
		remains: 'Yes, he does.\nHe has one.'
	},
	{
		shape: 'quoted with a space before the sign',
		plain: 'OK\n\n > The boat leaves at 4:10.\n >> Who waits?\n',
		remains: 'OK'
	},
	{
		shape: 'the name first, the date behind',
		plain: `Fine.\n\nMaren Quill <a1.x@return.example> wrote on 9.3.2027 07:05:\n${quoted}`,
		remains: 'Fine.'
	},
	{
		shape: 'a rule and the head of the letter, nothing marked',
		plain:
			'We come.\n\n________________________________\nFrom: Maren Quill <a1.x@return.example>\nSent: Tuesday, March 9, 2027 7:05 AM\nTo: Delfina Amaro\nSubject: Boats\n\nThe boat leaves at 4:10.\n',
		remains: 'We come.'
	},
	{
		shape: 'the head of the letter in bold',
		plain:
			'We come.\n\n*From:* Maren Quill <a1.x@return.example>\n*Sent:* Tuesday, March 9, 2027 7:05 AM\n*To:* Delfina\n*Subject:* Boats\n\nThe boat leaves.\n',
		remains: 'We come.'
	},
	{
		shape: '"Original Message"',
		plain: 'Yes.\n\n-----Original Message-----\nFrom: Maren Quill\nThe boat leaves.\n',
		remains: 'Yes.'
	},
	{
		shape: '"Original Message" with spaces',
		plain: 'Yes.\n\n-------- Original Message --------\nThe boat leaves.\n',
		remains: 'Yes.'
	},
	{
		shape: 'passed on',
		plain: 'See below.\n\n---------- Forwarded message ---------\nFrom: Maren\nThe boat leaves.\n',
		remains: 'See below.'
	},
	{
		shape: 'what a phone adds',
		plain: `On my way.\n\nSent from my phone\n\nOn Mar 9, 2027, at 7:05 AM, Maren Quill wrote:\n\n${quoted}`,
		remains: 'On my way.'
	},
	{
		shape: 'a signature behind its separator (RFC 3676 section 4.3)',
		plain: 'Yes.\n-- \nDelfina Amaro\nHarbor Road\n',
		remains: 'Yes.'
	},
	{
		shape: 'Windows line ends',
		plain: 'One.\r\nTwo.\r\n\r\nOn Tue, 9 Mar 2027, Maren Quill wrote:\r\n> The boat.\r\n',
		remains: 'One.\nTwo.'
	},
	{
		shape: 'a colon and a number of one’s own',
		plain: 'We need three things: boots, a coat, 2 apples.\nIs this all?\n',
		remains: 'We need three things: boots, a coat, 2 apples.\nIs this all?'
	},
	{
		shape: 'a sentence that begins as a quotation does',
		plain: 'On Tuesday he is with his father.\n',
		remains: 'On Tuesday he is with his father.'
	},
	{
		shape: 'Spanish, below',
		plain: `Gracias, iremos.\n\nEl mar, 9 mar 2027 a las 7:05, Maren Quill (<a1.x@return.example>) escribió:\n${quoted}`,
		remains: 'Gracias, iremos.'
	},
	{
		shape: 'Spanish, the head of the letter',
		plain:
			'No podemos.\n\nDe: Maren Quill <a1.x@return.example>\nEnviado el: martes, 9 de marzo de 2027 7:05\nPara: Delfina Amaro\nAsunto: Barcos\n\nEl barco sale.\n',
		remains: 'No podemos.'
	},
	{
		shape: 'Spanish, what a phone adds',
		plain: `Sí.\n\nEnviado desde mi teléfono\n\nEl 9 mar 2027, a las 7:05, Maren Quill escribió:\n\n${quoted}`,
		remains: 'Sí.'
	},
	{
		shape: 'Spanish, "Mensaje original"',
		plain: 'Vale.\n\n----- Mensaje original -----\nEl barco sale.\n',
		remains: 'Vale.'
	},
	{
		shape: 'Portuguese, below',
		plain: `Obrigada, vamos.\n\nMaren Quill <a1.x@return.example> escreveu (terça, 9/03/2027 à(s) 07:05):\n\n${quoted}`,
		remains: 'Obrigada, vamos.'
	},
	{
		shape: 'Portuguese, who wrote',
		plain: `Sim.\n\nEm ter., 9 de mar. de 2027 às 07:05, Maren Quill <a1.x@return.example>\nescreveu:\n\n${quoted}`,
		remains: 'Sim.'
	},
	{
		shape: 'Portuguese, the head of the letter',
		plain:
			'Não vai.\n\nDe: Maren Quill\nEnviado: 9 de março de 2027 07:05\nPara: Delfina\nAssunto: Barcos\n\nO barco sai.\n',
		remains: 'Não vai.'
	},
	{
		shape: 'Vietnamese, below',
		plain: `Cảm ơn cô.\n\nVào Th 3, 9 thg 3, 2027 vào lúc 7:05 Maren Quill <a1.x@return.example> đã viết:\n\n${quoted}`,
		remains: 'Cảm ơn cô.'
	},
	{
		shape: 'Vietnamese, the head of the letter',
		plain:
			'Cháu có đến ạ.\n\nTừ: Maren Quill <a1.x@return.example>\nĐã gửi: Thứ Ba, 9 Tháng Ba 2027 7:05\nĐến: Bao Pham\nChủ đề: Thuyền\n\nThuyền đi lúc 4:10.\n',
		remains: 'Cháu có đến ạ.'
	},
	{
		shape: 'Vietnamese, what a phone adds',
		plain: 'Mấy giờ ạ?\n\nĐã gửi từ điện thoại của tôi\n',
		remains: 'Mấy giờ ạ?'
	},
	{
		shape: 'Arabic, below',
		plain: `شكرا، سنحضر.\n\nفي الثلاثاء، 9 مارس 2027 في 7:05 ص كتب Maren Quill <a1.x@return.example>:\n\n${quoted}`,
		remains: 'شكرا، سنحضر.'
	},
	{
		shape: 'Arabic, with marks of direction and Arabic digits',
		plain: `نعم.\n\n\u200fفي ٩ مارس ٢٠٢٧، الساعة ٧:٠٥ ص، كتب/كتبت Maren Quill:\u200f\n\n${quoted}`,
		remains: 'نعم.'
	},
	{
		shape: 'Arabic, the head of the letter',
		plain:
			'لن نحضر.\n\nمن: Maren Quill\nتاريخ الإرسال: الثلاثاء، 9 مارس 2027\nإلى: Karim Bilal\nالموضوع: القارب\n\nيغادر القارب.\n',
		remains: 'لن نحضر.'
	},
	{
		shape: 'HTML only, quoted in a block',
		html: '<div dir="ltr">We <b>come</b>.</div><br><div class="gmail_quote"><div class="gmail_attr">On Tue, Mar 9, 2027 at 7:05 AM Maren Quill wrote:<br></div><blockquote>The boat leaves.</blockquote></div>',
		remains: 'We come.'
	},
	{
		shape: 'HTML only, answered below what is quoted',
		html: '<div class="moz-cite-prefix">On 3/9/27 7:05 AM, Maren Quill wrote:<br></div><blockquote type="cite"><p>The boat leaves.</p></blockquote><p>He takes it.</p>',
		remains: 'He takes it.'
	},
	{
		shape: 'HTML only, answered between',
		html: '<blockquote type="cite">Does he swim?</blockquote><div>Yes.</div><blockquote type="cite">A coat?</blockquote><div>He has one.</div>',
		remains: 'Yes.\nHe has one.'
	},
	{
		shape: 'HTML only, all behind a mark is quoted',
		html: '<div>We come.</div><div id="appendonsend"></div><hr><div id="divRplyFwdMsg"><b>From:</b> Maren<br><b>Sent:</b> Tuesday</div><div>The boat leaves.</div>',
		remains: 'We come.'
	},
	{
		shape: 'HTML only, the head of the letter in a bordered part, no mark',
		html: '<p>We come.</p><div style="border-top:solid #E1E1E1 1pt"><p><b>From:</b> Maren Quill &lt;a1.x@return.example&gt;<br><b>Sent:</b> Tuesday, March 9, 2027<br><b>To:</b> Delfina<br><b>Subject:</b> Boats</p></div><p>The boat leaves.</p>',
		remains: 'We come.'
	},
	{
		shape: 'HTML only, a signature and a tracking picture',
		html: '<p>Yes.</p><div class="gmail_signature">Delfina<br>Harbor Road</div><img src="https://x.example/p.gif" width="1" height="1">',
		remains: 'Yes.'
	},
	{
		shape: 'HTML only, in Arabic',
		html: '<div dir="rtl"><p>متى ينتهي؟</p></div><div class="gmail_quote" dir="rtl">في الثلاثاء كتب Maren:<blockquote>القارب</blockquote></div>',
		remains: 'متى ينتهي؟'
	},
	{
		shape: 'plain text that marks nothing beside HTML that does',
		plain: 'We come.\nThe boat leaves.\n',
		html: '<div>We come.</div><blockquote type="cite">The boat leaves.</blockquote>',
		remains: 'We come.'
	},
	{
		shape: 'script and style in the HTML are no words',
		html: '<style>p{color:red}</style><script>alert(1)</script><p>Thank you.</p>',
		remains: 'Thank you.'
	},
	{
		shape: 'an answer in the subject alone, the letter quoted',
		plain: `On Tue, Mar 9, 2027 Maren Quill wrote:\n${quoted}`,
		remains: ''
	},
	{
		shape: 'French, below',
		plain: `Merci.\n\nLe mar. 9 mars 2027 à 07:05, Maren Quill <a1.x@return.example> a écrit :\n\n${quoted}`,
		remains: 'Merci.'
	}
];

/** A whole letter in a shape: plain text, HTML, or both (RFC 2046 section 5.1.4), in UTF-8. */
function letterIn({ plain, html }: Shape): string {
	const part = (type: string, words: string) =>
		`Content-Type: text/${type}; charset=utf-8\r\nContent-Transfer-Encoding: base64\r\n\r\n${Buffer.from(words).toString('base64')}\r\n`;
	const head =
		'From: Delfina Amaro <home@harbormail.example>\r\nTo: a1.x@return.example\r\nSubject: Re: Boats\r\nMIME-Version: 1.0\r\n';
	if (html === undefined) return head + part('plain', plain!);
	if (plain === undefined) return head + part('html', html);
	return `${head}Content-Type: multipart/alternative; boundary=x\r\n\r\n--x\r\n${part('plain', plain)}--x\r\n${part('html', html)}--x--\r\n`;
}

describe('the new words of an answer by mail', () => {
	it('are known in forty shapes and more', () => expect(shapes.length).to.be.at.least(40));
	for (const shape of shapes) {
		it(`remain: ${shape.shape}`, async () => {
			const { mail } = await readReturned(letterIn(shape), 'home@harbormail.example');
			expect(mail.kind === 'answer' && mail.answer.text).to.equal(shape.remains);
		});
	}

	it('are read of letters made to be slow as well: each line is looked at once', async () => {
		const slow = [
			`${'On 1 '.repeat(4_000)}wrote:\n`.repeat(40),
			'>'.repeat(100_000),
			`${'a <b@c.example> '.repeat(3_000)}\n`.repeat(20),
			'From: x\n'.repeat(20_000)
		];
		for (const plain of slow) {
			const { mail } = await readReturned(
				letterIn({ shape: '', plain: `We come.\n${plain}`, remains: '' }),
				'home@harbormail.example'
			);
			expect(mail.kind).to.equal('answer');
		}
	});
});
