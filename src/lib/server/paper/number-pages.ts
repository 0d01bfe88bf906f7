import { margin, quiet, type Pen } from './pen';

/** "1 of 3" at the foot of each page of a document that keeps them (`bufferPages`). */
export function numberPages(pen: Pen): void {
	const { doc } = pen;
	const { count } = doc.bufferedPageRange();
	for (let i = 0; i < count; i += 1) {
		doc.switchToPage(i);
		doc.page.margins.bottom = 0;
		pen.write(`${i + 1} of ${count}`, 8, {
			color: quiet,
			x: margin,
			y: doc.page.height - 36,
			width: doc.page.width - 2 * margin,
			align: 'right'
		});
	}
}
