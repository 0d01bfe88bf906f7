import type { Column } from './column';

type Columns = Readonly<Record<string, Column<unknown, boolean>>>;

/** A table: its name in the database, one line on what it is for, its columns by their names in the code. */
export interface Table<C extends Columns = Columns> {
	readonly name: string;
	readonly about: string;
	readonly columns: C;
}

/** A table as one reads it. Columns are named as in the code ("schoolId"); in the database they are parted ("school_id"). */
export const table = <C extends Columns>(name: string, about: string, columns: C): Table<C> => ({
	name,
	about,
	columns
});

/** A row as it comes out. */
export type Row<T extends Table> = {
	readonly [K in keyof T['columns']]: T['columns'][K]['holds'];
};

type FilledIn<T extends Table> = {
	[K in keyof T['columns']]: T['columns'][K]['filled'] extends true ? K : never;
}[keyof T['columns']];

/** A row to be put in: what the database fills in by itself may be left out. */
export type NewRow<T extends Table> = Omit<Row<T>, FilledIn<T>> &
	Partial<Pick<Row<T>, FilledIn<T>>>;

/** "schoolId" as the database has it: "school_id". */
export const inDatabase = (name: string): string =>
	name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
