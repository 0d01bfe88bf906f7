/**
 * Writes a table as CSV: RFC 4180, with CRLF at each line's end and quotes where a cell holds a
 * comma, a quote or a line break. A cell that a spreadsheet would run as a formula (it begins with
 * =, +, -, @, a tab or a carriage return) gets an apostrophe before it (OWASP, "CSV Injection").
 */
export function writeCsv(rows: readonly (readonly (string | number)[])[]): string {
	return rows.map((row) => `${row.map(cell).join(',')}\r\n`).join('');
}

function cell(value: string | number): string {
	if (typeof value === 'number') return String(value);
	const safe = /^[=+\-@\t\r]/.test(value) ? `'${value}` : value;
	return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}
