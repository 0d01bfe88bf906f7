/** The sizes of paper that there are here and elsewhere. */
export const papers = ['letter', 'a4'] as const;
export type PaperSize = (typeof papers)[number];

/** A size by the name that pdfkit has for it. */
export const pageSize = (size: PaperSize): 'A4' | 'LETTER' => (size === 'a4' ? 'A4' : 'LETTER');
