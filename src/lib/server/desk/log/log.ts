import { z } from 'zod';
import { localDays } from '../../../core/time/zone';
import { scope } from '../../access/may';
import type { LoggedValues } from '../../access/log';
import type { User } from '../../access/user';
import { readDistrict } from '../../db/district';
import type { LogAct, LogThing } from '../../db/models/log';
import type { Bind, Query } from '../../db/open';
import { actsOfKind, logKinds, type LogAbout, type LogLine, type LogPage } from './types';
import { logWords } from './words';

const perPage = 50;
/** So many lines stand on the page of a thing itself. */
const mostOfThing = 40;

const dayField = z.union([z.literal(''), z.iso.date()]).catch('');
/** Which lines are looked for, as an address says it. */
export const logFilterSchema = z.object({
	/** By whom; 0 for what was done by itself. */
	by: z.union([z.literal(''), z.coerce.number().int().min(0)]).catch(''),
	kind: z
		.union([z.literal(''), z.enum(Object.keys(logKinds) as [keyof typeof logKinds])])
		.catch(''),
	from: dayField,
	until: dayField,
	page: z.coerce.number().int().min(1).max(1_000_000).catch(1)
});
export type LogFilter = z.infer<typeof logFilterSchema>;

interface Row {
	readonly id: number;
	readonly at: number;
	readonly byId: number | null;
	readonly by: string | null;
	readonly session: number | null;
	readonly act: LogAct;
	readonly thing: LogThing | null;
	readonly thingId: number | null;
	readonly before: string | null;
	readonly after: string | null;
	readonly about: string | null;
}

/** The name that each kind of thing has today. */
const nameOf = `CASE thing
	WHEN 'dispatch' THEN (SELECT '“' || subject || '”' FROM dispatch WHERE id = thing_id AND state != 'draft')
	WHEN 'round' THEN (SELECT '“' || subject || '”' FROM dispatch WHERE round_id = thing_id ORDER BY id LIMIT 1)
	WHEN 'standing' THEN (SELECT '“' || subject || '”' FROM standing WHERE id = thing_id)
	WHEN 'event' THEN (SELECT title FROM school_event WHERE id = thing_id)
	WHEN 'person' THEN (SELECT trim(given_name || ' ' || family_name) FROM person WHERE id = thing_id)
	WHEN 'group' THEN (SELECT '“' || name || '”' FROM school_group WHERE id = thing_id)
	WHEN 'marker' THEN (SELECT '“' || name || '”' FROM marker WHERE id = thing_id)
	WHEN 'section' THEN (SELECT name FROM section WHERE id = thing_id)
	WHEN 'roster' THEN (SELECT '“' || name || '”' FROM roster_file WHERE id = thing_id)
END`;

/** What stands for a thing whose name is gone. */
const gone: Readonly<Partial<Record<LogThing, string>>> = {
	dispatch: 'a sheet that is a draft again or gone',
	round: 'a repetition that is gone',
	person: 'somebody who was erased',
	event: 'an event that is gone'
};

const pages: Readonly<Partial<Record<LogThing, string>>> = {
	dispatch: '/reach/',
	person: '/people/',
	event: '/week/events/',
	group: '/people/groups/',
	marker: '/people/markers/',
	section: '/people/sections/',
	roster: '/people/rosters/'
};

const values = (json: string | null): LoggedValues =>
	json === null ? {} : (JSON.parse(json) as LoggedValues);

async function namesIn(db: Query, sql: string): Promise<ReadonlyMap<number, string>> {
	return new Map((await db.all<{ id: number; name: string }>(sql)).map((r) => [r.id, r.name]));
}

/** Rows as they are read, with the words that their codes stand for. */
async function shown(db: Query, rows: readonly Row[]): Promise<LogLine[]> {
	if (rows.length === 0) return [];
	const { zone, clock: style } = await readDistrict(db);
	const schools = await namesIn(db, 'SELECT id, name FROM school');
	const ids = (what: string) => [
		...new Set(rows.flatMap((r) => [values(r.before)[what], values(r.after)[what]]).filter(Number))
	];
	const named = async (table: 'person' | 'section', of: readonly unknown[]) => {
		const name = table === 'person' ? `given_name || ' ' || family_name` : 'name';
		const found = await db.all<{ id: number; name: string }>(
			`SELECT id, ${name} AS name FROM ${table} WHERE id IN (SELECT value FROM json_each($ids))`,
			{ ids: JSON.stringify(of) }
		);
		return new Map(found.map((r) => [r.id, r.name]));
	};
	const people = await named('person', [...ids('of'), ...ids('to')]);
	const sections = await named('section', ids('section'));
	return rows.map((row): LogLine => {
		const { id, at, by, session, act, thing, thingId, about } = row;
		const words = logWords(act, {
			...{ before: values(row.before), after: values(row.after), zone, style },
			about: about ?? (thing && (gone[thing] ?? `a ${thing} that is gone`)) ?? '',
			person: (p) => people.get(Number(p)) ?? 'somebody',
			school: (s) => schools.get(Number(s)) ?? 'a school',
			section: (s) => sections.get(Number(s)) ?? 'a section'
		});
		const page = about !== null && thing !== null ? pages[thing] : undefined;
		// That somebody has come in is about nobody else.
		const own = act === 'signed-in' || act === 'signed-out';
		const { session: came } = values(row.after);
		return {
			...{ id, at, by, words },
			session: session ?? (own && typeof came === 'number' ? came : null),
			href: page && !own ? `${page}${thingId}` : null
		};
	});
}

const columns = `log_line.id, log_line.at, by_id AS byId, session_id AS session, act, thing, thing_id AS thingId, before, after,
	(SELECT given_name || ' ' || family_name FROM person WHERE id = by_id) AS "by", ${nameOf} AS about`;

/** A page of what was done, the newest first, of what a user may read. */
export async function logPage(db: Query, user: User, filter: LogFilter): Promise<LogPage> {
	const seen = scope(user).log;
	const wanted = [seen.sql];
	const bind: Bind = { ...seen.bind };
	if (filter.by === 0) wanted.push('by_id IS NULL');
	else if (filter.by !== '') {
		wanted.push('by_id = $by');
		bind.by = filter.by;
	}
	if (filter.kind !== '') {
		wanted.push('act IN (SELECT value FROM json_each($acts))');
		bind.acts = JSON.stringify(actsOfKind[filter.kind]);
	}
	const { zone } = await readDistrict(db);
	if (filter.from !== '') {
		wanted.push('at >= $from');
		bind.from = localDays(filter.from, 1, zone)[0]!.from;
	}
	if (filter.until !== '') {
		wanted.push('at < $until');
		bind.until = localDays(filter.until, 1, zone)[0]!.to;
	}
	const where = wanted.join(' AND ');
	const found = (await db.one<{ n: number }>(
		`SELECT count(*) AS n FROM log_line WHERE ${where}`,
		bind
	))!.n;
	const all = Math.max(1, Math.ceil(found / perPage));
	const page = Math.min(all, filter.page);
	const rows = await db.all<Row>(
		`SELECT ${columns} FROM log_line WHERE ${where} ORDER BY log_line.id DESC LIMIT ${perPage} OFFSET $offset`,
		{ ...bind, offset: (page - 1) * perPage }
	);
	const people = await db.all<{ id: number; name: string }>(
		`SELECT id, given_name || ' ' || family_name AS name FROM person WHERE id IN
			(SELECT DISTINCT by_id FROM log_line WHERE ${seen.sql}) ORDER BY family_name, given_name LIMIT 500`,
		seen.bind
	);
	return { lines: await shown(db, rows), found, page, pages: all, people };
}

/** What was done to one thing, the newest first: for whoever may see the thing itself. */
export async function logOfThing(db: Query, [thing, id]: LogAbout): Promise<LogLine[]> {
	const rows = await db.all<Row>(
		`SELECT ${columns} FROM log_line WHERE thing = $thing AND thing_id = $id ORDER BY log_line.id DESC LIMIT ${mostOfThing}`,
		{ thing, id }
	);
	// It stands on the page that it would lead to.
	return (await shown(db, rows)).map((line) => ({ ...line, href: null }));
}
