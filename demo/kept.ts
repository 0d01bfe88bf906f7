import { audienceOf, type Audience } from '../src/lib/core/audience/audience';
import { setClock } from '../src/lib/server/clock';
import type { Db } from '../src/lib/server/db/open';
import { rosterChanged } from '../src/lib/server/db/roster';
import { keepAudience } from '../src/lib/server/desk/audience/kept';
import { userNamed } from './history';
import type { SchoolGroupRow, SectionRow } from '../src/lib/server/db/models/roster';

const threeWeeks = 21 * 86_400_000;

/** Keeps some audiences three weeks before the demo begins; since then the crew has changed. */
export async function keepSome(db: Db, until: number): Promise<void> {
	const maren = await userNamed(db, 'maren');
	const group = async (name: string) =>
		(await db.one<Pick<SchoolGroupRow, 'id'>>('SELECT id FROM school_group WHERE name = $name', {
			name
		}))!.id;
	const crew = await group('Regatta Crew');
	const line = (of: Audience['lines'][number]): Audience => ({
		version: 2,
		lines: [of],
		byHand: []
	});
	await setClock(db, until - threeWeeks);
	const keep = async (name: string, form: 'rule' | 'list', audience: Audience) => {
		const kept = await keepAudience(db, maren, name, form, audience);
		if (!kept.ok) throw new Error(`kept audiences: ${kept.why}`);
	};
	await keep(
		'Crew families',
		'rule',
		line({
			verb: 'and',
			to: [{ kind: 'guardians' }, { kind: 'students' }],
			of: { kind: 'groups', ids: [crew] },
			only: []
		})
	);
	await keep(
		'North Run, elementary, by text',
		'rule',
		line({
			verb: 'and',
			to: [{ kind: 'guardians' }],
			of: {
				kind: 'all',
				of: [
					{ kind: 'groups', ids: [await group('North Run')] },
					{ kind: 'schools', ids: [1] }
				]
			},
			only: [{ kind: 'text', optedIn: true }]
		})
	);
	const boats = await db.all<Pick<SectionRow, 'id'>>(
		`SELECT section.id FROM section JOIN course ON course.id = course_id
		WHERE school_id = 3 AND term_id = 2 AND section.name LIKE 'Boatbuilding%'`
	);
	await keep('Launch day helpers', 'list', audienceOf(boats.map((b) => b.id)));
	await db.write(async (tx) => {
		await tx.run(
			`DELETE FROM group_member WHERE group_id = $crew
				AND person_id IN (SELECT min(person_id) FROM group_member WHERE group_id = $crew)`,
			{ crew }
		);
		await tx.run(
			`INSERT INTO group_member (group_id, person_id)
			SELECT $crew, id FROM person WHERE kind = 'student' AND school_id = 3
				AND id NOT IN (SELECT person_id FROM group_member WHERE group_id = $crew)
			ORDER BY id LIMIT 3`,
			{ crew }
		);
		await rosterChanged(tx);
	});
}
