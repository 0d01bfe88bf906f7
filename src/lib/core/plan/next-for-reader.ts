import { nextAllowed } from '../time/quiet';
import { readerRules, type QuietBook, type QuietReader } from './reader-rules';

/**
 * The first moment at or after `at` (instants, ms) that is not quiet for one reader. What is for them alone
 * waits for no day without school.
 */
export const nextForReader = (book: QuietBook, at: number, reader: QuietReader): number =>
	nextAllowed(at, { ...readerRules(book, reader), closed: () => false }) ?? at;
