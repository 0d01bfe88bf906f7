const separated = new Intl.NumberFormat('en-US');

/** A number as it is read: with separators from a thousand on. */
export const count = (n: number): string => separated.format(n);
