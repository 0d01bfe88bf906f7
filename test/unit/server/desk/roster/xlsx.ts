import { createWriteStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { ZipFile } from 'yazl';

const escaped = (text: string) =>
	text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;');
const head = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>';
const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
const rels = 'http://schemas.openxmlformats.org/package/2006/relationships';
const office = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';

/** Writes a workbook of one sheet, by ECMA-376 part 1 (18.2 workbook, 18.3 worksheet, inline strings in 18.3.1.53) and part 2 (packages). */
export async function writeXlsx(path: string, rows: readonly (readonly (string | number)[])[]) {
	const sheet = rows
		.map((row, r) => {
			const cells = row.map((cell, c) => {
				const at = `${String.fromCharCode(65 + c)}${r + 1}`;
				return typeof cell === 'number'
					? `<c r="${at}"><v>${cell}</v></c>`
					: `<c r="${at}" t="inlineStr"><is><t>${escaped(cell)}</t></is></c>`;
			});
			return `<row r="${r + 1}">${cells.join('')}</row>`;
		})
		.join('');
	const type = 'application/vnd.openxmlformats-officedocument.spreadsheetml';
	const parts = {
		'[Content_Types].xml': `${head}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="${type}.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="${type}.worksheet+xml"/></Types>`,
		'_rels/.rels': `${head}<Relationships xmlns="${rels}"><Relationship Id="rId1" Type="${office}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
		'xl/workbook.xml': `${head}<workbook xmlns="${main}" xmlns:r="${office}"><sheets><sheet name="Contacts" sheetId="1" r:id="rId1"/></sheets></workbook>`,
		'xl/_rels/workbook.xml.rels': `${head}<Relationships xmlns="${rels}"><Relationship Id="rId1" Type="${office}/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`,
		'xl/worksheets/sheet1.xml': `${head}<worksheet xmlns="${main}"><sheetData>${sheet}</sheetData></worksheet>`
	};
	const zip = new ZipFile();
	for (const [name, text] of Object.entries(parts)) zip.addBuffer(Buffer.from(text), name);
	zip.end();
	await pipeline(zip.outputStream, createWriteStream(path));
}
