import { DataTypes, literal, type ModelAttributeColumnOptions } from 'sequelize';

/** By which {@link Column.neverTwice} is told from {@link Column.numbered}. */
export const neverTwice = 'AUTOINCREMENT';

/**
 * One column of a table: what Sequelize is told of it, and the type of what stands in it. `Filled`
 * says that a new row may leave it out. Immutable: each step gives another column.
 */
export class Column<T, Filled extends boolean = false> {
	/** For the type checker alone: nothing stands here. */
	declare readonly holds: T;
	declare readonly filled: Filled;

	constructor(readonly options: Readonly<ModelAttributeColumnOptions>) {}

	private with<U, F extends boolean>(more: Partial<ModelAttributeColumnOptions>): Column<U, F> {
		return new Column<U, F>({ ...this.options, ...more });
	}

	/** May hold nothing. */
	orNull(): Column<T | null, true> {
		return this.with({ allowNull: true });
	}
	/** Part of the primary key; several such columns are one key together. */
	key(): Column<T, Filled> {
		return this.with({ primaryKey: true });
	}
	/** The number of the row, given by the database where it is left out. */
	numbered(): Column<T, true> {
		return this.with({ primaryKey: true, autoIncrement: true });
	}
	/** As {@link numbered}, and never given twice: what names the row outlives it (links, references of providers). */
	neverTwice(): Column<T, true> {
		return this.with({ primaryKey: true, autoIncrement: true, comment: neverTwice });
	}
	/** No two rows have the same. */
	once(): Column<T, Filled> {
		return this.with({ unique: true });
	}
	/** What stands there where nothing is said. */
	usually(value: T): Column<T, true> {
		return this.with({ defaultValue: value });
	}
	/** As {@link usually}, worked out by the database. */
	usuallyBy(expression: string): Column<T, true> {
		return this.with({ defaultValue: literal(expression) });
	}
	/** The row of another table that this one names, and what becomes of this one when that one is deleted; nothing said, it cannot be. */
	of(table: string, whenDeleted?: 'CASCADE' | 'SET NULL'): Column<T, Filled> {
		return this.with({
			references: { model: table, key: 'id' },
			onDelete: whenDeleted ?? 'NO ACTION'
		});
	}
}

/** A whole number. */
export const whole = <T extends number = number>() =>
	new Column<T>({ type: DataTypes.INTEGER, allowNull: false });
/** An instant, ms since the epoch. */
export const instant = () => whole();
/** Yes and no. */
export const flag = () => whole<0 | 1>();
/** Text; of a fixed set of words where its type says so (no CHECK lists them: a new word must not rebuild a table). */
export const text = <T extends string = string>() =>
	new Column<T>({ type: DataTypes.TEXT, allowNull: false });
/** A structured value as JSON, checked by Zod on the way out. */
export const json = () => text();
/** A day, as ISO 8601 has it: "2027-03-09". */
export const day = () => text();
/** What tokens, Message-IDs and return addresses are made from: random, so that no number can be guessed. */
export const nonce = () => text().usuallyBy('(lower(hex(randomblob(16))))');
/** A part of a whole, 0 to 1. */
export const share = () => new Column<number>({ type: DataTypes.REAL, allowNull: false });
