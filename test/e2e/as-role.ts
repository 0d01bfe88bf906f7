import { openSession } from '../../src/lib/server/access/sessions';
import { roles, type RoleName } from '../../src/lib/server/db/models/access';
import type { Db } from '../../src/lib/server/db/open';

/** The demo's people, by what they are. */
const sample: Partial<Record<RoleName, string>> = {
	...{ coordinator: 'maren', principal: 'ruth', office: 'ines', teacher: 'chidi' }
};

/** Somebody of a role that the demo has nobody of, at the first school or for the district. */
async function newColleague(db: Db, role: RoleName): Promise<number> {
	const identifier = `role-${role}`;
	// Another file of the same lane may have made them.
	const there = await db.one<{ id: number }>(
		'SELECT id FROM person WHERE identifier = $identifier',
		{ identifier }
	);
	if (there) return there.id;
	await db.run(
		`INSERT INTO person (kind, given_name, family_name, language, has_inbox, identifier) VALUES ('adult', 'Juno', 'Reed', 'en', 1, $identifier)`,
		{ identifier }
	);
	const { id } = (await db.one<{ id: number }>(
		'SELECT id FROM person WHERE identifier = $identifier',
		{ identifier }
	))!;
	await db.run(
		`INSERT INTO sign_in (person_id, user_name, password_hash, title) VALUES ($id, $name, '', '')`,
		{ id, name: `juno-${role}` }
	);
	const at = role === 'operator' ? 'NULL' : '(SELECT min(id) FROM school)';
	await db.run(
		`INSERT INTO role (person_id, role, school_id, starts_at) VALUES ($id, $role, ${at}, 0)`,
		{ id, role }
	);
	return id;
}

/** The cookie of a session of each role. */
export async function asEachRole(db: Db): Promise<ReadonlyMap<RoleName, string>> {
	const cookies = new Map<RoleName, string>();
	for (const name of roles) {
		const userName = sample[name];
		const known = userName
			? await db.one<{ id: number }>(
					'SELECT person_id AS id FROM sign_in WHERE user_name = $userName',
					{ userName }
				)
			: undefined;
		const personId = known?.id ?? (await newColleague(db, name));
		const { token } = await db.write((tx) =>
			openSession(
				tx,
				personId,
				{ address: '192.0.2.9', agent: '' },
				{ before: undefined, factor: 'given' }
			)
		);
		cookies.set(name, `session=${token}`);
	}
	return cookies;
}

/** Takes those again who were only here to be one of a role; they stay on file, as people do. */
export async function forgetColleagues(db: Db): Promise<void> {
	const those = `(SELECT id FROM person WHERE identifier LIKE 'role-%')`;
	for (const table of ['session', 'role', 'sign_in'])
		await db.run(`DELETE FROM ${table} WHERE person_id IN ${those}`);
	await db.run(`UPDATE person SET identifier = NULL, gone_at = 1 WHERE identifier LIKE 'role-%'`);
}
