/** How a copy goes to its reader, in the order in which a sheet has them. */
export const ways = ['email', 'text', 'inbox'] as const;
export type Way = (typeof ways)[number];
/** The ways that a provider outside the house carries. */
export type WayOut = Exclude<Way, 'inbox'>;
