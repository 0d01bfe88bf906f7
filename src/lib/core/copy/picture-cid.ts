/** The name of a picture's part inside a letter (RFC 2392). */
export const pictureCid = (fileId: number): string => `picture-${fileId}@idle-courier`;
