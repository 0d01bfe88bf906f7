import { Faker, en, es, pt_PT, vi } from '@faker-js/faker';
import type { Random } from './random';

export const languages = ['en', 'es', 'pt', 'vi', 'ar'] as const;
export type DemoLanguage = (typeof languages)[number];

/** Arabic given and family names as a school office writes them, in Latin letters; a few families write theirs in Arabic. */
const arabic = {
	female: ['Layla', 'Yasmin', 'Nour', 'Hana', 'Rania', 'Salma'],
	male: ['Omar', 'Karim', 'Samir', 'Tariq', 'Bilal', 'Idris'],
	family: [
		'Haddad',
		'Mansour',
		'Khoury',
		'Nasser',
		'Saleh',
		'Darwish',
		'Farah',
		'Qasim',
		'Rahal',
		'Zidan'
	]
};
const arabicScript = {
	female: ['ليلى', 'ياسمين', 'نور'],
	male: ['عمر', 'كريم', 'سمير'],
	family: ['حداد', 'منصور', 'خوري', 'درويش']
};

export type Sex = 'female' | 'male';

export interface Names {
	given(language: DemoLanguage, sex: Sex): string;
	family(language: DemoLanguage): string;
}

/** Made-up names from a seed, in the way of each language. */
export function names(seed: number, random: Random): Names {
	const fakers = Object.fromEntries(
		Object.entries({ en: [en], es: [es, en], pt: [pt_PT, en], vi: [vi, en] }).map(
			([key, locale], i) => {
				const faker = new Faker({ locale });
				faker.seed(seed + i);
				return [key, faker];
			}
		)
	) as Record<Exclude<DemoLanguage, 'ar'>, Faker>;
	return {
		given: (l, sex) =>
			l === 'ar'
				? random.pick((random.chance(0.12) ? arabicScript : arabic)[sex])
				: fakers[l].person.firstName(sex),
		family: (l) =>
			l === 'ar'
				? random.pick(random.chance(0.08) ? arabicScript.family : arabic.family)
				: fakers[l].person.lastName()
	};
}

/** Plain Latin letters for a mail address; names in other scripts get a word of their own. */
export function plain(text: string, fallback: string): string {
	const letters = text
		.normalize('NFD')
		.replace(/[đĐ]/g, 'd')
		.replace(/[^A-Za-z]/g, '')
		.toLowerCase();
	return letters || fallback;
}
