/** A school's name as lists have room for it: "Heron Landing Elementary School" is "Heron Landing". */
export function shortNameOf(name: string, taken: ReadonlySet<string>): string {
	const short = name
		.replace(/\s+school$/i, '')
		.replace(/\s+(elementary|primary|middle|intermediate|junior|senior|high|secondary)$/i, '')
		.trim();
	const fits = short.length >= 3 && short.length <= 40 && !taken.has(short);
	return fits ? short : name;
}
