import type { z } from 'zod';
import type { User } from '../../access/user';
import type { Query } from '../../db/open';
import type { Field } from './types';

/** What the fields of a chapter hold, as a form has them. */
export type Values = Readonly<Record<string, string | readonly string[]>>;

/** A form of the settings: its fields, how they stand in what it is about, and how what is typed is read. */
export interface Form<T> {
	readonly name: string;
	/** What it is about, and from when a change acts. */
	readonly says: string;
	readonly fields: readonly Field[];
	readonly valuesOf: (of: T) => Values;
	/** Reads what is filled in: what of it becomes another. */
	readonly schema: z.ZodType<Partial<T>>;
	/** What the form alone cannot tell: why a change cannot be, or null. */
	readonly look?: (db: Query, user: User, change: Partial<T>, before: T) => Promise<string | null>;
}
