import { createHash } from 'node:crypto';
import { z } from 'zod';
import { fixedWords, wordLanguages } from '../../../core/copy/fixed-words';
import { nameOfLanguage } from '../../../core/copy/language';
import { isAllowed } from '../../access/may';
import { writeDown } from '../../access/log';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { readSetting, writeSetting } from '../../db/district';
import type { Db, Query } from '../../db/open';
import type { Said } from '../../said';
import { notYours } from '../work/roles';
import type { CheckedWords, LanguageWords } from './types';

const settingKey = 'words-checked';

/** By language: which words were checked, who said so and when (instant, ms). */
const checkedSchema = z
	.record(z.string(), z.object({ mark: z.string(), byId: z.number(), at: z.number() }))
	.default({});

/** What is checked: another word is another mark. */
const markOf = (tag: string): string =>
	createHash('sha256')
		.update(JSON.stringify(fixedWords(tag)))
		.digest('hex');

const readChecked = async (db: Query) => checkedSchema.parse(await readSetting(db, settingKey));

/** Each language that there are fixed words in: who reads it, and whether a speaker has checked them. */
export async function checkedWords(db: Query): Promise<CheckedWords[]> {
	const checked = await readChecked(db);
	const readers = await db.all<{ language: string; n: number }>(
		`SELECT language, count(*) AS n FROM person_now WHERE kind = 'adult' GROUP BY language`
	);
	const people = await db.all<{ id: number; name: string }>(
		`SELECT id, trim(given_name || ' ' || family_name) AS name FROM person WHERE id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(Object.values(checked).map((c) => c.byId)) }
	);
	const named = new Map(people.map((p) => [p.id, p.name]));
	return wordLanguages.map((tag): CheckedWords => {
		const own = checked[tag];
		return {
			...{ tag, name: nameOfLanguage(tag) },
			people: readers
				.filter((r) => r.language.split('-')[0] === tag)
				.reduce((sum, r) => sum + r.n, 0),
			words: fixedWords(tag).reduce((sum, part) => sum + part.words.length, 0),
			checked: own
				? {
						by: named.get(own.byId) ?? 'somebody',
						at: own.at,
						since: own.mark !== markOf(tag)
					}
				: null
		};
	});
}

/** The fixed words of one language, each beside the English; null where there are none. */
export async function wordsOfLanguage(db: Query, tag: string): Promise<LanguageWords | null> {
	const head = (await checkedWords(db)).find((l) => l.tag === tag);
	return head ? { ...head, places: fixedWords(tag) } : null;
}

/** Says that a speaker has checked the fixed words of a language, as they are now. */
export async function sayChecked(db: Db, user: User, tag: string): Promise<Said> {
	if (!isAllowed(user, 'settings')) return notYours;
	if (!wordLanguages.includes(tag))
		return { ok: false, why: 'There are no words of ours in this language.' };
	return db.write(async (tx): Promise<Said> => {
		const at = Math.round(await now(tx));
		const own = { mark: markOf(tag), byId: user.personId, at };
		await writeSetting(tx, settingKey, { ...(await readChecked(tx)), [tag]: own });
		await writeDown(tx, {
			...{ act: 'setting-changed', by: user },
			after: { chapter: `words-${tag}` }
		});
		return { ok: true };
	});
}
