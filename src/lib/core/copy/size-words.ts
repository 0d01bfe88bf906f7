/** "240 kB": a file's size in decimal units, as mail systems count. */
export function sizeWords(bytes: number): string {
	if (bytes < 1000) return `${bytes} B`;
	if (bytes < 1_000_000) return `${Math.round(bytes / 1000)} kB`;
	const mega = (bytes / 1_000_000).toFixed(bytes < 10_000_000 ? 1 : 0);
	return bytes < 1_000_000_000 ? `${mega} MB` : `${(bytes / 1_000_000_000).toFixed(1)} GB`;
}
