import { expect } from 'chai';
import { zipSync, strToU8 } from 'fflate';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { getContent } from '../../../../../src/lib/server/db/file-store';
import { openFile } from '../../../../../src/lib/server/desk/family/open-file';
import {
	fileForPerson,
	fileForUser,
	keepFile,
	usableFiles
} from '../../../../../src/lib/server/desk/sheet/files';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { coordinator, sheetOf, teacher, testSchool, type TestSchool } from '../../database';

const key = Buffer.alloc(32, 7);
/** A PNG of one point (PNG specification, section 5: signature, IHDR, IDAT, IEND). */
const png = Buffer.from(
	'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
	'base64'
);
const pdf = Buffer.from('%PDF-1.4\n1 0 obj<<>>endobj\ntrailer<<>>\n%%EOF\n');
const docx = Buffer.from(
	zipSync({
		'[Content_Types].xml': strToU8(
			'<Types><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>'
		),
		'word/document.xml': strToU8('<w:document/>')
	})
);

describe('files that go with a dispatch', () => {
	let school: TestSchool;
	before(async () => (school = await testSchool()));
	after(() => school.close());
	const keep = (name: string, content: Buffer, as: 'file' | 'picture' = 'file', user = teacher) =>
		keepFile(school.db, school.folder, user, name, content, as, 20e6);
	const kept = async (...args: Parameters<typeof keep>) => {
		const made = await keep(...args);
		if (!made.ok) throw new Error(made.why);
		return made.file;
	};

	it('are known by their content, whatever their name says', async () => {
		expect(await kept('jar.png', png)).to.include({ type: 'image/png', width: 1, height: 1 });
		expect(await kept('slip.pdf', pdf)).to.include({ type: 'application/pdf', width: null });
		expect((await kept('slip.docx', docx)).type).to.match(/wordprocessingml\.document$/);
		// The name gets the ending that belongs to the content.
		expect((await kept('slip.pdf', png)).name).to.equal('slip.pdf.png');
		expect(await kept('list.csv', Buffer.from('name\nNguyễn\n'))).to.include({ type: 'text/csv' });
		expect((await kept('../../etc/pass"wd\u0000.txt', Buffer.from('x'))).name).to.equal(
			'pass wd .txt'
		);
	});

	it('are refused with a reason where they could do harm, are broken, empty or too big', async () => {
		for (const [name, content, why] of [
			[
				'game.png',
				Buffer.from('MZ\u0090\u0000' + '\u0000'.repeat(200), 'latin1'),
				/x-msdownload.*Save it as PDF/
			],
			['a.pdf', Buffer.from('\u007fELF' + '\u0000'.repeat(200), 'latin1'), /x-elf/],
			['page.txt', Buffer.from([0x68, 0, 0x69]), /none of the kinds/],
			['page.csv', Buffer.from([0xff, 0x68, 0xc3, 0x28]), /none of the kinds/],
			['page.html', Buffer.from('<script>alert(1)</script>'), /none of the kinds/],
			[
				'pic.svg',
				Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" onload="alert(1)"/>'),
				/none of the kinds|svg/
			],
			['cut.png', png.subarray(0, 20), /broken picture|cut off/],
			['none.pdf', Buffer.alloc(0), /is empty/],
			[
				'big.pdf',
				Buffer.concat([pdf, Buffer.alloc(20_000_000)]),
				/has 21 MB; 20 MB are taken at most/
			]
		] as const) {
			const made = await keep(name, content);
			expect(made.ok ? 'taken' : made.why, name).to.match(why);
		}
		const asPicture = await keep('slip.pdf', pdf, 'picture');
		expect(asPicture.ok ? '' : asPicture.why).to.match(/is no picture/);
	});

	it('of calendars, contacts, phones’ pictures and texts without an ending are taken', async () => {
		const calendar = Buffer.from('BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\nEND:VCALENDAR\r\n');
		expect(await kept('dates.ics', calendar)).to.include({
			type: 'text/calendar',
			name: 'dates.ics'
		});
		const card = Buffer.from('BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Office\r\nEND:VCARD\r\n');
		expect(await kept('office.vcf', card)).to.include({ type: 'text/vcard', name: 'office.vcf' });
		// ISO/IEC 23008-12 section 10.2.1: the brand "heic" in the file type box.
		const heic = Buffer.concat([
			Buffer.from([0, 0, 0, 24]),
			Buffer.from('ftypheic\0\0\0\0mif1heic', 'latin1'),
			Buffer.alloc(64)
		]);
		expect(await kept('IMG_0001.HEIC', heic)).to.include({ type: 'image/heic', width: null });
		const asPicture = await keep('IMG_0001.HEIC', heic, 'picture');
		expect(asPicture.ok ? '' : asPicture.why).to.match(/is no picture of the kinds/);
		expect(await kept('README', Buffer.from('Bring a coat.'))).to.include({
			type: 'text/plain',
			name: 'README.txt'
		});
	});

	it('have names that read as they are: nothing in them turns their letters round', async () => {
		expect((await kept('slip\u202efdp.txt', Buffer.from('x'))).name).to.equal('slipfdp.txt');
		expect((await kept('a\u2066b\u200b\u0085c.pdf', pdf)).name).to.equal('ab c.pdf');
	});

	it('that are cut-off pictures are refused, wherever they were cut; what stands behind the end is no fault', async () => {
		const gif = Buffer.from('R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7', 'base64');
		// ITU-T T.81, annex B: SOI, a frame header of one point, a scan with one byte, EOI.
		const jpeg = Buffer.from(
			'ffd8 ffe0 0010 4a46494600 0101 00 0048 0048 0000 ffc0 000b 08 0001 0001 01 011100 ffda 0008 01 0100 00 3f00 d2 cf20 ffd9'.replaceAll(
				' ',
				''
			),
			'hex'
		);
		for (const [name, whole] of [
			['a.png', png],
			['a.gif', gif],
			['a.jpg', jpeg]
		] as const) {
			expect((await keep(name, whole)).ok, name).to.equal(true);
			expect((await keep(name, Buffer.concat([whole, Buffer.from('behind')]))).ok, name).to.equal(
				true
			);
			for (let cut = 1; cut < 20; cut += 3) {
				const made = await keep(name, whole.subarray(0, whole.length - cut), 'picture');
				expect(made.ok, `${name} less ${cut}`).to.equal(false);
			}
		}
	});

	it('belong to who put them in; nobody else sends or sees them', async () => {
		const mine = await kept('slip.pdf', pdf);
		const other = { ...teacher, personId: 10 };
		expect(await fileForUser(school.db, other, mine.id)).to.equal(undefined);
		expect(await usableFiles(school.db, other, [mine.id])).to.deep.equal([]);
		expect((await fileForUser(school.db, coordinator, mine.id))!.name).to.equal('slip.pdf');
		const sheet = sheetOf({
			letter: { ...sheetOf().letter, files: [{ fileId: 999, mode: 'link', private: false }] }
		});
		const sent = await schedule(school.db, key, coordinator, sheet, 5);
		expect(sent.ok ? '' : sent.checks[0]!.text).to.match(/^1 file is no longer there/);
	});

	it('are kept once for the same content, whole, and found again', async () => {
		const a = await kept('a.pdf', pdf);
		const { hash } = (await fileForUser(school.db, teacher, a.id))!;
		expect(await getContent(school.folder, hash)).to.deep.equal(pdf);
		expect(existsSync(join(school.folder, 'files', hash))).to.equal(true);
		await kept('b.pdf', pdf);
		const rows = await school.db.all(
			`SELECT DISTINCT hash FROM file WHERE name IN ('a.pdf', 'b.pdf')`
		);
		expect(rows).to.have.length(1);
	});

	it('open for those who have the letter, once it has left, and opening one is evidence', async () => {
		const file = await kept('plan.pdf', pdf, 'file', coordinator);
		const picture = await kept('jar.png', png, 'picture', coordinator);
		const sheet = sheetOf({
			holdMinutes: 0,
			letter: {
				...sheetOf().letter,
				files: [
					{ fileId: file.id, mode: 'link', private: false },
					{ fileId: picture.id, mode: 'attach', private: false }
				]
			}
		});
		const sent = await schedule(school.db, key, coordinator, sheet, 5);
		if (!sent.ok) throw new Error(sent.checks[0]!.text);
		const open = (personId: number, id: number) =>
			openFile(school.db, { ok: true, personId, deliveryId: null, dispatchId: null }, id, {
				method: 'GET',
				agent: 'Mozilla/5.0',
				purpose: '',
				key: `reader ${personId}`
			});
		expect(await fileForPerson(school.db, 10, file.id)).to.equal(null);
		await school.db.run(`UPDATE delivery SET state = 'delivered' WHERE dispatch_id = $id`, {
			id: sent.dispatchId
		});
		expect((await open(10, file.id))!.name).to.equal('plan.pdf');
		await open(10, file.id);
		expect((await open(11, file.id))!.name).to.equal('plan.pdf');
		expect(await open(91, file.id)).to.equal(null);
		expect((await open(10, picture.id))!.name).to.equal('jar.png');
		const events = await school.db.all<{ detail: string }>(
			`SELECT detail FROM event WHERE kind = 'link-followed'`
		);
		expect(events.map((e) => e.detail)).to.deep.equal(['opened the file plan.pdf']);
	});
});
