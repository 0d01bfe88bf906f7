import { DateTime } from 'luxon';
import { z } from 'zod';
import { wordLanguages } from '../../core/copy/fixed-words';
import { usualFront } from '../../core/plan/board';
import { colourPattern, usualColour, type Letterhead } from '../../core/copy/letterhead';
import { dayMarksLater, usualMarks } from '../../core/time/zone';
import { callingHours, stillHours } from '../../core/time/quiet';
import { holdMinutes } from '../../core/time/hold';
import { now } from '../clock';
import type { Query } from './open';
import { roles } from './models/access';
import type { SettingRow } from './models/running';

const minuteSchema = z.number().int().min(0).max(1440);
const hoursSchema = z.object({ fromMinute: minuteSchema, toMinute: minuteSchema });
/** Quiet hours by way; mail stands for email and inbox. */
export const quietSchema = z.object({
	text: hoursSchema.default(callingHours),
	mail: hoursSchema.default(stillHours)
});
/** The five minutes that part a day, each later than the one before. */
export const marksSchema = z
	.tuple([minuteSchema, minuteSchema, minuteSchema, minuteSchema, minuteSchema])
	.refine(dayMarksLater, 'Each is later than the one before.');
const monthsSchema = z.number().int().min(1).max(600);
const holdSchema = z.number().int().min(0).max(holdMinutes.most).default(holdMinutes.default);

/** What the district decides for itself. */
export const districtSchema = z.object({
	name: z.string().min(1),
	/** IANA name of the zone of all times shown. */
	zone: z.string().min(1),
	/** From address of mail; the name before it is the sender's. Empty until a mail server is set. */
	mailFrom: z.union([z.literal(''), z.email()]).default(''),
	/** Number or name that texts come from. Empty until a text provider is set. */
	textFrom: z.string().max(20).default(''),
	/** BCP 47 tag of the language of everybody of whom no other is known. */
	language: z.string().min(2).max(35).default('en'),
	/** Tags of the languages that families are offered. */
	languages: z
		.array(z.string().min(2).max(35))
		.min(1)
		.max(60)
		.default([...wordLanguages]),
	/** How long a private link in a copy opens the inbox. */
	linkDays: z.number().int().min(1).default(180),
	/** How long a text that comes from a phone is taken for an answer to what the phone was sent last, days. */
	textAnswerDays: z.number().int().min(1).max(365).default(14),
	/** Words by which a phone stops texts, starts them or asks who writes, beside those that always do. */
	textWords: z
		.object({
			stop: z.array(z.string().min(1).max(40)).max(50).default([]),
			start: z.array(z.string().min(1).max(40)).max(50).default([]),
			help: z.array(z.string().min(1).max(40)).max(50).default([])
		})
		.default({ stop: [], start: [], help: [] }),
	/** What is said beside our own words to whoever answers an announcement; in every language as it stands. */
	oneWayWords: z.string().max(160).default(''),
	/** What the text provider takes for one part, cents; 0 where nobody has said. */
	textPartCents: z.number().min(0).default(0),
	/** Biggest file that is taken in, MB. What the web server takes (BODY_SIZE_LIMIT) must be a little more. */
	fileLimitMegabytes: z.number().min(1).max(100).default(20),
	/** The size of a letter that mail systems refuse, MB; 25 is common practice. */
	mailLimitMegabytes: z.number().min(1).max(200).default(25),
	quiet: quietSchema.default(quietSchema.parse({})),
	/** Whether ordinary messages wait on days without school: never, on closures, or on weekends and between terms as well. */
	quietDays: z.enum(['never', 'closures', 'all']).default('closures'),
	/** What parts a school's day. */
	marks: marksSchema.default([...usualMarks]),
	/** How a time of day is written. */
	clock: z.enum(['12', '24']).default('12'),
	/** ISO 3166-1 code of the country by whose rules a number is read that begins with no +. */
	country: z
		.string()
		.regex(/^[A-Z]{2}$/)
		.default('US'),
	/** The day that a week begins with where days are shown, Monday 1 to Sunday 7. */
	weekStart: z.union([z.literal(1), z.literal(6), z.literal(7)]).default(1),
	/** Days of the week with school, Monday 1 to Sunday 7. */
	schoolWeekdays: z.array(z.number().int().min(1).max(7)).default([1, 2, 3, 4, 5]),
	/** Copies a minute that the providers take; null for as many as there are. */
	pace: z
		.object({
			email: z.number().int().min(1).nullable().default(null),
			text: z.number().int().min(1).nullable().default(null)
		})
		.default({ email: null, text: null }),
	/** Whether emails hold a picture of one dot, whose loading is weak evidence of reading. */
	countPictures: z.boolean().default(true),
	/** What stands around every email. */
	letterhead: z
		.object({
			logo: z
				.object({
					fileId: z.number().int().positive(),
					width: z.number().int().positive(),
					height: z.number().int().positive()
				})
				.nullable()
				.default(null),
			colour: z.string().regex(colourPattern).default(usualColour),
			footer: z.array(z.string().max(200)).max(12).default([])
		})
		.default({ logo: null, colour: usualColour, footer: [] }),
	/** How many announcements stand in front on a board, and whether anybody may open one who has its link. */
	boards: z
		.object({
			front: z.number().int().min(1).max(20).default(usualFront),
			open: z.boolean().default(false)
		})
		.default({ front: usualFront, open: false }),
	/** Messages a family may get in a day before it is pointed out. */
	loadLimit: z.number().int().min(1).max(50).default(3),
	/** For how many months words, evidence, raw addresses in it and answers are kept: three school years and one. */
	keeping: z
		.object({
			words: monthsSchema.default(36),
			evidence: monthsSchema.default(36),
			addresses: monthsSchema.default(12),
			answers: monthsSchema.default(36)
		})
		.default({ words: 36, evidence: 36, addresses: 12, answers: 36 }),
	/** After how many hours without a request a session has ended. */
	idleHours: z.number().int().min(1).max(14).default(4),
	/** Roles of which a second factor is asked for. */
	factorFor: z.array(z.enum(roles)).default([]),
	/** The usual hold, by kind. */
	holds: z
		.object({ announcement: holdSchema, message: holdSchema })
		.default({ announcement: holdMinutes.default, message: holdMinutes.default })
});
export type District = z.infer<typeof districtSchema>;

/** What a district puts around every email. */
export const letterheadOf = ({ letterhead, name }: District): Letterhead => ({
	...letterhead,
	alt: name
});

/** A small fact that outlives a process, as it was written; undefined where there is none. Still bad input: it may be an older version's. */
export async function readSetting(db: Query, key: string): Promise<unknown> {
	const row = await db.one<Pick<SettingRow, 'value'>>(
		'SELECT value FROM setting WHERE key = $key',
		{ key }
	);
	return row ? JSON.parse(row.value) : undefined;
}

const districtKey = 'district';

/** Whether the first start is done. */
export const hasDistrict = async (db: Query): Promise<boolean> =>
	(await readSetting(db, districtKey)) !== undefined;

/** The text that was parsed last and what it came to: it is asked for at every request and with every batch of copies, and hardly ever another. */
let parsed: { readonly text: string; readonly district: District } | undefined;

export async function readDistrict(db: Query): Promise<District> {
	const row = await db.one<Pick<SettingRow, 'value'>>(
		'SELECT value FROM setting WHERE key = $key',
		{ key: districtKey }
	);
	if (!row)
		throw new Error('Nothing is set up here yet: open the address that was printed at the start.');
	if (parsed?.text !== row.value)
		parsed = { text: row.value, district: districtSchema.parse(JSON.parse(row.value)) };
	return parsed.district;
}

/** Puts down what the district decides from now on. */
export const writeDistrict = (tx: Query, district: District): Promise<void> =>
	writeSetting(tx, districtKey, district);

/** The day in the district, ISO date. */
export async function districtDay(db: Query): Promise<string> {
	const { zone } = await readDistrict(db);
	return DateTime.fromMillis(await now(db), { zone }).toISODate()!;
}

export async function writeSetting(db: Query, key: string, value: unknown): Promise<void> {
	await db.run(
		`INSERT INTO setting (key, value) VALUES ($key, $value)
		ON CONFLICT (key) DO UPDATE SET value = excluded.value`,
		{ key, value: JSON.stringify(value) }
	);
}

/** Forgets a small fact. */
export const dropSetting = (tx: Query, key: string): Promise<void> =>
	tx.run('DELETE FROM setting WHERE key = $key', { key });
