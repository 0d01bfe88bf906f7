import iconv from 'iconv-lite';

/**
 * Tables as offices save them: the letters of a file and the sign between its cells, told from what
 * stands in it. A mark at the beginning decides (Unicode 16.0, section 23.8); octets that are UTF-8 are
 * that (RFC 3629); anything else is Windows-1252, in which every octet of an old program is a letter.
 */
export type Letters = 'UTF-8' | 'UTF-16' | 'Windows-1252';

/** A share of NUL octets on one side that only two-octet letters have. */
const manyNuls = 0.3;

function utf16Of(octets: Uint8Array): 'utf-16le' | 'utf-16be' | null {
	if (octets[0] === 0xff && octets[1] === 0xfe) return 'utf-16le';
	if (octets[0] === 0xfe && octets[1] === 0xff) return 'utf-16be';
	const some = octets.subarray(0, 4_096);
	const nuls = [0, 0];
	some.forEach((octet, i) => {
		if (octet === 0) nuls[i % 2]! += 1;
	});
	const half = some.length / 2;
	if (half < 2) return null;
	if (nuls[1]! / half > manyNuls && nuls[0] === 0) return 'utf-16le';
	return nuls[0]! / half > manyNuls && nuls[1] === 0 ? 'utf-16be' : null;
}

/** A file's octets as text, and in which letters it was written; null where it is no text at all. */
export function decodeTable(
	octets: Uint8Array
): { readonly text: string; readonly letters: Letters } | null {
	const wide = utf16Of(octets);
	if (wide) return checked(new TextDecoder(wide).decode(octets), 'UTF-16');
	try {
		return checked(new TextDecoder('utf-8', { fatal: true }).decode(octets), 'UTF-8');
	} catch {
		// TextDecoder of Node 20 takes this for Latin-1 and loses the euro sign.
		return checked(iconv.decode(Buffer.from(octets), 'windows-1252'), 'Windows-1252');
	}
}

/** A table holds no signs that steer machines but ends of lines and tabs. */
function checked(text: string, letters: Letters) {
	// eslint-disable-next-line no-control-regex -- these are what is looked for
	return /[\0-\x08\x0e-\x1f]/.test(text) ? null : { text, letters };
}

/** Those first that stand in no ordinary text: where two stand equally often in every line, they part the cells. */
const signs = ['\t', ';', ','] as const;
export type Sign = (typeof signs)[number];

/** Lines that are looked at for the sign. */
const mostLines = 30;

/** How often a sign stands outside quotes in each of the first lines. */
function counted(text: string, sign: Sign): number[] {
	const counts: number[] = [];
	let n = 0;
	let quoted = false;
	let any = false;
	for (const letter of text) {
		if (letter === '"') quoted = !quoted;
		if (letter === sign && !quoted) n += 1;
		if (letter !== '\n' && letter !== '\r') any = true;
		if (letter !== '\n' || quoted) continue;
		if (any) counts.push(n);
		if (counts.length === mostLines) return counts;
		n = 0;
		any = false;
	}
	if (any) counts.push(n);
	return counts;
}

/** The sign between the cells of a table: the one that stands equally often in the most lines; a comma where none does. */
export function signBetween(text: string): Sign {
	const start = text.slice(0, 200_000);
	let best: Sign = ',';
	let most = 0;
	for (const sign of signs) {
		const counts = counted(start, sign);
		const first = counts[0] ?? 0;
		const alike = first === 0 ? 0 : counts.filter((n) => n === first).length / counts.length;
		if (alike > most) [best, most] = [sign, alike];
	}
	return best;
}
