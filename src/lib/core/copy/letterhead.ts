/** What the district puts around every email: its logo and a rule in its colour above, some lines below. */
export interface Letterhead {
	/** A picture among the files, with its size in px; null where there is none. */
	readonly logo: {
		readonly fileId: number;
		readonly width: number;
		readonly height: number;
	} | null;
	/** What the logo says to whoever does not see it: the district's name. */
	readonly alt: string;
	/** "#0f5c63", of the rule above and of links. */
	readonly colour: string;
	/** Lines below the letter. */
	readonly footer: readonly string[];
}

/** Our own colour. */
export const usualColour = '#0f5c63';

/** Where nobody has said anything. */
export const plainLetterhead: Letterhead = {
	...{ logo: null, alt: '', colour: usualColour, footer: [] }
};

/** A colour as it is written down: "#0f5c63". */
export const colourPattern = /^#[0-9a-f]{6}$/;

/** The relative luminance of a colour, 0 to 1 (WCAG 2.2, "relative luminance"). */
function luminance(colour: string): number {
	const [r, g, b] = [1, 3, 5].map((i) => {
		const c = Number.parseInt(colour.slice(i, i + 2), 16) / 255;
		return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
	}) as [number, number, number];
	return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

/** The contrast of two colours, 1 to 21 (WCAG 2.2, "contrast ratio"). */
export function contrast(a: string, b: string): number {
	const [dark, light] = [luminance(a), luminance(b)].sort((x, y) => x - y) as [number, number];
	return (light + 0.05) / (dark + 0.05);
}

/** Words of usual size have to stand out as much (WCAG 2.2, 1.4.3). */
export const leastContrast = 4.5;

/** A logo goes with every email: it has as many octets at most. */
export const logoLimitBytes = 300_000;

/** The room there is for a logo, px. */
const most = { width: 320, height: 96 };

/** A logo as large as it may stand, in its own proportions, px. */
export function logoSize({ width, height }: { readonly width: number; readonly height: number }): {
	readonly width: number;
	readonly height: number;
} {
	const by = Math.min(1, most.width / width, most.height / height);
	return {
		width: Math.max(1, Math.round(width * by)),
		height: Math.max(1, Math.round(height * by))
	};
}
