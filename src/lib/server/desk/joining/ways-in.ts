import { joinLanguages, joinPhrases } from '../../../core/copy/join-phrases';
import { phoneText } from '../../../core/format/phone';
import { readDistrict } from '../../db/district';
import type { Query } from '../../db/open';
import { mailOfGroup } from './by-mail';
import type { OpenGroup } from './open-groups';
import type { WaysIn } from './types';

/** Where we can be reached from outside, from the settings. */
export interface Outside {
	readonly publicUrl: string;
	readonly returnDomain: string;
	/** Empty where there is no text provider. */
	readonly smppUrl: string;
}

/** The number that texts come from as people read it: a short one as it is; null for a name, to which nobody can send a text. */
function numberText(from: string): string | null {
	const digits = from.replace(/^\+/, '');
	if (!/^\d{3,15}$/.test(digits)) return null;
	return digits.length < 7 ? digits : phoneText(`+${digits}`);
}

/** The page on which a group is joined. */
const pageOfGroup = (publicUrl: string, code: string): string =>
	`${publicUrl}/join/${code.toLowerCase()}`;

/** The languages of the families of a school, or of the district: those there are words in, the most usual first. */
async function familyLanguages(db: Query, schoolId: number | null): Promise<string[]> {
	const rows = await db.all<{ language: string; n: number }>(
		`SELECT adult.language, count(DISTINCT adult.id) AS n FROM contact_now
		JOIN person_now AS adult ON adult.id = contact_now.person_id
		JOIN person_now AS student ON student.id = student_id
		WHERE guardian AND ($school IS NULL OR student.school_id = $school)
		GROUP BY adult.language ORDER BY n DESC, adult.language`,
		{ school: schoolId }
	);
	const { language } = await readDistrict(db);
	const there = rows
		.map((r) => r.language)
		.filter((tag) => joinLanguages.includes(tag.split('-')[0]!))
		.map((tag) => joinPhrases(tag).tag);
	return [...new Set([joinPhrases(language).tag, ...there])];
}

/** How a group is joined; null where it has no code. */
export async function waysIn(
	db: Query,
	{ publicUrl, returnDomain, smppUrl }: Outside,
	{ name, schoolId, code, until }: OpenGroup
): Promise<WaysIn | null> {
	if (code === null) return null;
	const district = await readDistrict(db);
	return {
		...{ group: name, district: district.name, code, until },
		number: smppUrl === '' ? null : numberText(district.textFrom),
		mail: mailOfGroup(code, returnDomain),
		link: pageOfGroup(publicUrl, code),
		languages: await familyLanguages(db, schoolId)
	};
}
