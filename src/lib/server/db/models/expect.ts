import type { Way } from '../../../core/roster/way';
import { instant, json, share, text, whole } from './column';
import { table, type Row } from './table';

export const readingModel = table('reading_model', 'How everybody reads, as it was learned last.', {
	id: whole().neverTwice(),
	at: instant(),
	/** Of which form it is: what an older version of the product has learned is learned again. */
	form: whole(),
	everybody: json(),
	bonds: json(),
	/** How many people and copies it was learned from. */
	people: whole(),
	copies: whole(),
	/** How far it has come while it is under way; nothing once it is whole. */
	done: json().orNull()
});
export const habit = table(
	'habit',
	'What one person does with copies by one way, as it was learned last.',
	{
		personId: whole().key().of('person'),
		way: text<Way>().key(),
		modelId: whole(),
		share: share(),
		/** Of the logarithms of minutes until reading. */
		middle: share(),
		weight: share(),
		copies: whole(),
		read: whole()
	}
);
export const forecast = table(
	'forecast',
	'What was to be expected of a dispatch when its copies were planned, and what came of it.',
	{
		dispatchId: whole().key().of('dispatch', 'CASCADE'),
		/** Of which plan of its copies. */
		plan: whole(),
		madeAt: instant(),
		leavesAt: instant(),
		/** By when it was asked. */
		byAt: instant(),
		students: whole(),
		expected: share(),
		low: whole(),
		high: whole(),
		/** The same at other times. */
		curve: json(),
		/** How many were, and how good it was; nothing before its time has come. */
		covered: whole().orNull(),
		judged: json().orNull()
	}
);
export const forecastChance = table(
	'forecast_chance',
	'The chance of each student to be covered by then, as it was forecast.',
	{
		dispatchId: whole().key().of('dispatch', 'CASCADE'),
		personId: whole().key().of('person'),
		chance: share()
	}
);

export type ReadingModelRow = Row<typeof readingModel>;
export type HabitRow = Row<typeof habit>;
export type ForecastRow = Row<typeof forecast>;
