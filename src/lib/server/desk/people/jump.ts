import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { found, searchWords } from '../../db/search';
import { fold } from '../../../core/format/fold';
import type { Db } from '../../db/open';
import { findPeople } from './find-people';
import type { JumpTo } from './types';
import type { DispatchRow } from '../../db/models/dispatch';
import type { SchoolGroupRow, SchoolRow, SectionRow, TermRow } from '../../db/models/roster';

/** Of each kind as many as can be looked over at a glance. */
const most = 6;

/** People, sections, groups and, where all is asked for, dispatches with every word of a search in their name, as far as the user may see them. */
export async function jumpTo(
	db: Db,
	user: User,
	search: string,
	among: 'all' | 'people' = 'all'
): Promise<JumpTo[]> {
	const subjects = found(search, ['dispatch.id', 'dispatch_words', 'subject']);
	const named = found(search, ['section.id', 'section_words']);
	if (!subjects || !named) return [];
	const seen = scope(user).dispatches;
	const dispatches =
		among === 'people'
			? []
			: await db.all<Pick<DispatchRow, 'id' | 'subject' | 'state'>>(
					`SELECT id, subject, state FROM dispatch WHERE ${seen.sql} AND ${subjects.sql}
		ORDER BY coalesce(leaves_at, changed_at) DESC LIMIT ${most}`,
					{ ...subjects.bind, ...seen.bind }
				);
	const mine = scope(user).sections;
	const today = new Date(await now(db)).toISOString().slice(0, 10);
	const sections = await db.all<
		Pick<SectionRow, 'id' | 'name'> & { term: TermRow['name']; school: SchoolRow['shortName'] }
	>(
		`SELECT section.id, section.name, term.name AS term, school.short_name AS school FROM section_now AS section
		JOIN course ON course.id = course_id JOIN school ON school.id = course.school_id
		JOIN term ON term.id = term_id WHERE ${mine.sql} AND ${named.sql}
		ORDER BY term.ends_on <= $today, term.starts_on, section.name LIMIT ${most}`,
		{ ...named.bind, today, ...mine.bind }
	);
	const people = (await findPeople(db, user, search, 'seen')).slice(
		0,
		among === 'people' ? 2 * most : most
	);
	return [
		...people.map((p) => ({
			key: `p${p.personId}`,
			kind: 'person' as const,
			name: p.name,
			note: p.note,
			href: `/people/${p.personId}`
		})),
		...dispatches.map((d) => ({
			key: `d${d.id}`,
			kind: 'dispatch' as const,
			name: d.subject || 'No subject yet',
			note: d.state,
			href: d.state === 'draft' ? `/write?draft=${d.id}` : `/reach/${d.id}`
		})),
		...sections.map((s) => ({
			key: `s${s.id}`,
			kind: 'section' as const,
			name: s.name,
			note: `${s.school}, ${s.term}`,
			href: `/people/sections/${s.id}`
		})),
		...(await groupsNamed(db, user, search)).map((g) => ({
			key: `g${g.id}`,
			kind: 'group' as const,
			name: g.name,
			note: g.kind,
			href: `/people/groups/${g.id}`
		}))
	];
}

/** The groups that a user looks after with every word of a search at the beginning of one of theirs. Groups are few. */
async function groupsNamed(db: Db, user: User, search: string) {
	const { sql, bind } = scope(user).groups;
	const groups = await db.all<Pick<SchoolGroupRow, 'id' | 'name' | 'kind'>>(
		`SELECT id, name, kind FROM school_group_now AS school_group WHERE ${sql} ORDER BY name`,
		bind
	);
	const words = searchWords(search).map(fold);
	return groups
		.filter(({ name }) => {
			const own = searchWords(name).map(fold);
			return words.every((word) => own.some((w) => w.startsWith(word)));
		})
		.slice(0, most);
}
