import { stringify } from 'csv-stringify/sync';

/**
 * Writes a table as CSV: RFC 4180, with CRLF at each line's end and quotes where a cell holds a
 * comma, a quote or a line break. A cell that a spreadsheet would run as a formula (it begins with
 * =, +, -, @, a tab or a carriage return) gets an apostrophe before it (OWASP, "CSV Injection").
 */
export const writeCsv = (rows: readonly (readonly (string | number)[])[]): string =>
	stringify(rows as (string | number)[][], {
		record_delimiter: 'windows',
		escape_formulas: true,
		// The package looks for whole record ends only; each of their signs ends a line for some reader.
		quoted_match: /[\r\n]/
	});
