import { create as codeOf } from 'qrcode';

/** Light modules around the code: ISO/IEC 18004 asks for four. */
const quietModules = 4;

/** Draws an address as a QR code (ISO/IEC 18004) with its quiet zone, its upper left corner at x and y. */
export function drawCode(
	doc: PDFKit.PDFDocument,
	text: string,
	x: number,
	y: number,
	side: number
): void {
	const { modules } = codeOf(text, { errorCorrectionLevel: 'M' });
	const unit = side / (modules.size + 2 * quietModules);
	doc.save().rect(x, y, side, side).fill('#ffffff').fillColor('#000000');
	for (let row = 0; row < modules.size; row += 1)
		for (let column = 0; column < modules.size; column += 1)
			if (modules.get(row, column))
				doc.rect(
					x + (column + quietModules) * unit,
					y + (row + quietModules) * unit,
					unit + 0.05,
					unit + 0.05
				);
	doc.fill().restore();
}

/** An address as a QR code to be drawn on a screen: its side in modules with the quiet zone, and the dark ones as an SVG path. */
export function codePath(text: string): { readonly side: number; readonly path: string } {
	const { modules } = codeOf(text, { errorCorrectionLevel: 'M' });
	let path = '';
	for (let row = 0; row < modules.size; row += 1)
		for (let column = 0; column < modules.size; column += 1)
			if (modules.get(row, column))
				path += `M${column + quietModules} ${row + quietModules}h1v1h-1z`;
	return { side: modules.size + 2 * quietModules, path };
}
