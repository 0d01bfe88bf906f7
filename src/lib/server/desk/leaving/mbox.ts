/** The day and time of an mbox line (asctime, RFC 4155 appendix A): "Sat Nov 28 06:41:57 2026", in UTC. */
const asctime = (at: Date): string => {
	const [day, date, month, year, time] = at.toUTCString().replace(',', '').split(' ');
	return `${day} ${month} ${String(Number(date)).padStart(2)} ${time} ${year}`;
};

/** A letter as it stands in an mbox file (RFC 4155): lines end with LF, and a line that begins with From is quoted once more each time ("mboxrd", common practice), so that it can be read back. */
export function inMbox(
	letter: Buffer,
	{ from, at }: { readonly from: string; readonly at: Date }
): string {
	const lines = letter
		.toString('latin1')
		.replace(/\r\n/g, '\n')
		.replace(/^(>*From )/gm, '>$1');
	return `From ${from} ${asctime(at)}\n${lines}${lines.endsWith('\n') ? '' : '\n'}\n`;
}
