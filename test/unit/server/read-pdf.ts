import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import jsQR from 'jsqr';

/** The words of each page, and what a phone reads in the code on it: by poppler-utils and jsQR, which know nothing of how it was drawn. */
export function readPdf(pdf: Uint8Array): {
	words: string[];
	codes: (string | undefined)[];
	size: string;
} {
	const folder = mkdtempSync(join(tmpdir(), 'idle-courier-sheet-'));
	try {
		const file = join(folder, 'x.pdf');
		writeFileSync(file, pdf);
		const info = execFileSync('pdfinfo', [file], { encoding: 'utf8' });
		const pages = Number(/Pages:\s+(\d+)/.exec(info)![1]);
		const words = execFileSync('pdftotext', [file, '-'], { encoding: 'utf8' }).split('\f');
		execFileSync('pdftoppm', ['-r', '100', file, join(folder, 'p')]);
		const codes = Array.from({ length: pages }, (_, i) => {
			const ppm = readFileSync(
				join(folder, `p-${String(i + 1).padStart(String(pages).length, '0')}.ppm`)
			);
			// "P6 width height 255" and a line end, then three octets for each point (Netpbm, ppm(5)).
			const [head, width, height] = /^P6\s+(\d+)\s+(\d+)\s+255\s/.exec(
				ppm.subarray(0, 40).toString('latin1')
			)!;
			const [w, h] = [Number(width), Number(height)];
			const points = new Uint8ClampedArray(w * h * 4).fill(255);
			for (let n = 0; n < w * h; n += 1)
				for (let c = 0; c < 3; c += 1) points[4 * n + c] = ppm[head.length + 3 * n + c]!;
			return jsQR(points, w, h)?.data;
		});
		return { words: words.slice(0, pages), codes, size: /Page size:\s+(.*)/.exec(info)![1]! };
	} finally {
		rmSync(folder, { recursive: true, force: true });
	}
}
