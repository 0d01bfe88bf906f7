import { readProviders } from '../../providers';
import type { Query } from '../../db/open';
import type { Settings } from '../../settings';
import { readHeard } from './heard';
import type { FirstStep } from './types';

/** How far the first start is; empty once there are students and both ways were set, or texts put aside. */
export async function firstSteps(
	db: Query,
	key: Buffer,
	settings: Settings
): Promise<readonly FirstStep[]> {
	const { smtpUrl, smppUrl } = await readProviders(db, key, settings);
	const students = (await db.one<{ n: number }>(
		`SELECT count(*) AS n FROM person_now WHERE kind = 'student'`
	))!.n;
	const [mail, text] = [await readHeard(db, 'email'), await readHeard(db, 'text')];
	return [
		{
			...{ name: 'The mail server', path: '/settings/mail', done: smtpUrl !== '' },
			said:
				smtpUrl === ''
					? 'Until one is set, no letter leaves: neither to families nor to colleagues.'
					: mail?.heardAt
						? 'It is set, and a letter of it has arrived.'
						: 'It is set.'
		},
		{
			...{ name: 'The text provider', path: '/settings/texts', done: smppUrl !== '' },
			said:
				smppUrl === ''
					? 'Without one families are written to by mail and in their inbox.'
					: text?.heardAt
						? 'It is set, and a text of it has arrived.'
						: 'It is set.'
		},
		{
			...{ name: 'The roster', path: '/people/rosters', done: students > 0 },
			said:
				students > 0
					? `${students.toLocaleString('en-US')} students are on file.`
					: 'Students, families, sections and staff come from the student system’s files, or from a list.'
		}
	];
}
