import { expect } from 'chai';
import { checkMailAddress } from '../../../../src/lib/core/format/mail-address';

const key = (text: string) => {
	const checked = checkMailAddress(text);
	return checked.ok ? checked.key : `no: ${checked.why}`;
};

/** Domains of examples are exchanged for .example; the local parts are those of the source named. */
describe('a mail address', () => {
	it('is taken as RFC 5322 section 3.4.1 and RFC 3696 section 3 with erratum 246 have it', () => {
		for (const address of [
			'john.q.public@harbor.example',
			'jdoe@one.harbor.example',
			'user+mailbox@harbor.example',
			'customer/department=shipping@harbor.example',
			'$A12345@harbor.example',
			'!def!xyz%abc@harbor.example',
			'_somename@harbor.example',
			"o'leary@harbor.example",
			'"Abc@def"@harbor.example',
			'"Fred Bloggs"@harbor.example',
			'"Joe.\\\\Blow"@harbor.example',
			'"Abc\\@def"@harbor.example',
			'""@harbor.example',
			'x@a.b-c.example'
		]) {
			expect(checkMailAddress(address).ok, address).to.equal(true);
		}
	});

	it('may be internationalised before and after the @ (RFC 6531 section 3.3), and has one key with its A-labels (RFC 5891)', () => {
		for (const address of ['用户@例子.example', 'Δοκιμή@παράδειγμα.example', 'अजय@डाटा.example']) {
			expect(checkMailAddress(address).ok, address).to.equal(true);
		}
		expect(key('ana@bücher.example')).to.equal(key('ANA@xn--bcher-kva.example'));
		// One letter composed, the other with a combining accent: one mailbox.
		expect(key('jos\u00e9@tide.example')).to.equal(key('jose\u0301@tide.example'));
	});

	it('has the lengths of RFC 5321 section 4.5.3.1 and of RFC 1035 section 2.3.4, in octets', () => {
		expect(key(`${'a'.repeat(64)}@tide.example`)).not.to.match(/^no/);
		expect(key(`${'a'.repeat(65)}@tide.example`)).to.equal(
			'no: what stands before the @ is over 64 octets'
		);
		expect(key(`${'é'.repeat(33)}@tide.example`)).to.match(/over 64 octets/);
		const label = 'b'.repeat(63);
		expect(key(`a@${label}.example`)).not.to.match(/^no/);
		expect(key(`a@${label}b.example`)).to.match(/is no domain$/);
		// A path of 256 octets has two angle brackets: 254 are left for the address (RFC 5321 4.5.3.1.3).
		const long = (n: number) => `a@${`${label}.`.repeat(3)}${'c'.repeat(n)}.example`;
		expect(key(long(254 - 2 - 192 - 8))).not.to.match(/^no/);
		expect(key(long(254 - 2 - 192 - 7))).to.match(/over 254 octets/);
	});

	for (const [text, why] of [
		['', 'it is empty'],
		['delfina', 'it has no @'],
		['@tide.example', 'nothing stands before the @'],
		['delfina@', 'nothing stands after the @'],
		['.delfina@tide.example', 'a full stop stands first, last or twice before the @'],
		['delfina.@tide.example', 'a full stop stands first, last or twice before the @'],
		['del..fina@tide.example', 'a full stop stands first, last or twice before the @'],
		['del fina@tide.example', 'it holds a space'],
		['delfina@tide example', 'it holds a space'],
		['del(a comment)fina@tide.example', 'it holds a space'],
		['del(x)fina@tide.example', '"(" cannot stand before the @'],
		['a,b@tide.example', '"," cannot stand before the @'],
		['Delfina <d@tide.example>', 'it holds a space'],
		['a@b@tide.example', '"@" cannot stand before the @'],
		['"open@tide.example', 'the quotes before the @ are not closed as they should be'],
		['"a"b"@tide.example', 'the quotes before the @ are not closed as they should be'],
		['a@tide', '"tide" is no domain'],
		['a@-tide.example', '"-tide.example" is no domain'],
		['a@tide-.example', '"tide-.example" is no domain'],
		['a@tide..example', '"tide..example" is no domain'],
		['a@tide.example.', '"tide.example." is no domain'],
		['a@tide_box.example', '"tide_box.example" is no domain'],
		['a@192.0.2.1', '"192.0.2.1" is no domain'],
		['a@tide.example:25', '"tide.example:25" is no domain'],
		['a@tide.example/x', '"tide.example/x" is no domain'],
		['a@[192.0.2.1]', 'it ends in a machine’s number, not in a domain'],
		['a@[IPv6:2001:db8::1]', 'it ends in a machine’s number, not in a domain'],
		['a\u200b@tide.example', 'it holds an invisible sign'],
		['a@tide.example\r\nBcc: b@tide.example', 'it holds an invisible sign']
	] as const) {
		it(`is not ${JSON.stringify(text)}: ${why}`, () => {
			expect(key(text)).to.equal(`no: ${why}`);
		});
	}

	it('is one mailbox in any capitals and with space around it (common practice; RFC 5321, 2.4 leaves it to the host)', () => {
		expect(key(' Home@Harbormail.EXAMPLE ')).to.equal('home@harbormail.example');
	});
});
