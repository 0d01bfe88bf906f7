import { expect } from 'chai';
import { Secret, TOTP } from 'otpauth';
import {
	beginFactor,
	confirmFactor,
	factorFits,
	recoveryLeft,
	stepOfCode
} from '../../../../src/lib/server/access/second-factor';
import { seal, unseal } from '../../../../src/lib/server/access/seal';
import { testSchool, type TestSchool } from '../database';

const key = Buffer.alloc(32, 7);
/** RFC 6238 appendix B: the secret "12345678901234567890" in ASCII, for SHA-1. */
const secret = Secret.fromUTF8('12345678901234567890').base32;

describe('a second factor', () => {
	// RFC 6238 appendix B, mode SHA1; of its eight figures ours are the last six (RFC 4226 section 5.3, step 3).
	for (const [seconds, code, step] of [
		[59, '94287082', 0x1],
		[1111111109, '07081804', 0x23523ec],
		[1111111111, '14050471', 0x23523ed],
		[1234567890, '89005924', 0x273ef07],
		[2000000000, '69279037', 0x3f940aa],
		[20000000000, '65353130', 0x27bc86aa]
	] as const)
		it(`takes the published code of ${seconds} s, as of its step`, () => {
			expect(stepOfCode(secret, code.slice(2), seconds * 1000)).to.equal(step);
		});

	it('takes the step before and after, and no other (RFC 6238 section 5.2)', () => {
		const at = 1111111111_000;
		const of = (shift: number) =>
			new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: at + shift * 30_000 });
		for (const [shift, taken] of [
			[-2, false],
			[-1, true],
			[1, true],
			[2, false]
		] as const)
			expect(stepOfCode(secret, of(shift), at) !== null, String(shift)).to.equal(taken);
		for (const none of ['', '12345', '1234567', 'abcdef', '０５０４７１'])
			expect(stepOfCode(secret, none, at), none).to.equal(null);
	});

	it('lies sealed: not to be read with another key, for another purpose, or changed', () => {
		const sealed = seal(key, 'a', secret);
		expect(sealed).not.to.contain(secret);
		expect(unseal(key, 'a', sealed)).to.equal(secret);
		expect(unseal(Buffer.alloc(32, 8), 'a', sealed)).to.equal(null);
		expect(unseal(key, 'b', sealed)).to.equal(null);
		const octets = Buffer.from(sealed, 'base64url');
		octets[20]! ^= 1;
		expect(unseal(key, 'a', octets.toString('base64url'))).to.equal(null);
		expect(unseal(key, 'a', 'short')).to.equal(null);
	});

	describe('of somebody', () => {
		let school: TestSchool;
		let codeNow: (shift?: number) => string;
		let paper: readonly string[];
		/** In the middle of a step. */
		const at = 1_800_000_015_000;
		before(async () => {
			school = await testSchool();
			const begun = (await beginFactor(school.db, key, { personId: 90, userName: 'maren' }))!;
			const app = new TOTP({ secret: Secret.fromBase32(begun.secret) });
			codeNow = (shift = 0) => app.generate({ timestamp: at + shift * 30_000 });
			expect(begun.address).to.match(/^otpauth:\/\/totp\/Idle%20Courier:maren\?/);
			expect(await confirmFactor(school.db, key, 90, 'abcdef', at)).to.equal(null);
			paper = (await confirmFactor(school.db, key, 90, codeNow(-1), at))!;
		});
		after(() => school.close());
		const fits = (typed: string, personId = 90) =>
			school.db.write((tx) => factorFits(tx, key, personId, typed, at));

		it('is not begun again over one that works, and gives ten codes for paper', async () => {
			expect(await beginFactor(school.db, key, { personId: 90, userName: 'maren' })).to.equal(null);
			expect(await confirmFactor(school.db, key, 90, codeNow(), at)).to.equal(null);
			expect(new Set(paper)).to.have.lengthOf(10);
			const stored = JSON.stringify(await school.db.all('SELECT * FROM recovery_code'));
			for (const code of paper) expect(stored).not.to.contain(code.replace('-', ''));
		});

		it('takes each code once, and none that is older', async () => {
			const code = codeNow();
			expect(await fits(`${code.slice(0, 3)} ${code.slice(3)}`)).to.equal(true);
			expect(await fits(code)).to.equal(false);
			expect(await fits(codeNow(-1))).to.equal(false);
		});

		it('takes a code from paper once, however it is written, and of its owner alone', async () => {
			const [first] = paper;
			expect(await fits(first!, 91)).to.equal(false);
			expect(await fits(first!.toUpperCase().replace('-', ' '))).to.equal(true);
			expect(await fits(first!)).to.equal(false);
			expect(await recoveryLeft(school.db, 90)).to.equal(9);
		});
	});
});
