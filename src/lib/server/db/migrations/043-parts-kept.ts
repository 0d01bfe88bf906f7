/** How many parts a text had as it was handed over: what it costs is so many times the price of one. Of texts that left before nobody knows it any more. */
export const up: readonly string[] = ['ALTER TABLE delivery ADD COLUMN parts INTEGER'];
