/** The code of the event of a copy that goes though its reader has declined its kind. */
export const overWishCode = 'over-wish';
