import type { RoleName } from '../db/models/access';

/**
 * What a role can be given to do, in the order in which it is shown. Each holds where the role holds: in the
 * district, at schools, in sections.
 */
export const rights = [
	'see',
	'write',
	'schedule',
	'urgent',
	'pass-over',
	'answer',
	'look-after',
	'give-link',
	'roster',
	'settings',
	'accounts',
	'log',
	'operate'
] as const;
export type Right = (typeof rights)[number];

/** What each role can do where nobody has said otherwise. */
export const usualRights: Readonly<Record<RoleName, readonly Right[]>> = {
	coordinator: rights,
	principal: ['see', 'write', 'schedule', 'urgent', 'pass-over', 'answer', 'look-after', 'log'],
	office: ['see', 'write', 'schedule', 'answer', 'look-after', 'give-link'],
	teacher: ['see', 'write', 'schedule', 'answer'],
	helper: ['see', 'answer'],
	operator: ['operate']
};

/** Where each role can be given. A teacher’s sections are the roster’s to say, so their school is only where they work. */
export const rolePlaces: Readonly<
	Record<
		RoleName,
		{
			readonly district: boolean;
			readonly school: boolean;
			readonly section: boolean;
			readonly byRoster: boolean;
		}
	>
> = {
	coordinator: { district: true, school: false, section: false, byRoster: false },
	principal: { district: true, school: true, section: false, byRoster: false },
	office: { district: true, school: true, section: false, byRoster: false },
	teacher: { district: false, school: true, section: true, byRoster: true },
	helper: { district: true, school: true, section: false, byRoster: false },
	operator: { district: true, school: false, section: false, byRoster: false }
};

/** What makes sense for the whole district alone, and is nothing at a school. */
export const districtOnly: readonly Right[] = ['roster', 'settings', 'accounts', 'operate'];

/** Where a right holds. */
export interface Where {
	readonly whole: boolean;
	/** Ids of schools. */
	readonly schools: readonly number[];
	/** Ids of sections that are named, as a substitute's are. */
	readonly sections: readonly number[];
	/** The sections that the roster says they teach. */
	readonly own: boolean;
}
const nowhere: Where = { whole: false, schools: [], sections: [], own: false };

/** A role that somebody has today. */
export interface RoleHeld {
	readonly role: RoleName;
	readonly schoolId: number | null;
	readonly sectionId: number | null;
}

/** Who is signed in, and what for. */
export interface User {
	readonly personId: number;
	readonly name: string;
	/** "Communications", "Mathematics": stands under what they write. */
	readonly title: string;
	readonly roles: readonly RoleHeld[];
	/** Where each right holds that any of the roles gives. */
	readonly rights: Readonly<Partial<Record<Right, Where>>>;
}

/** Where a role holds. A teacher's sections are the roster's to say; one section that is named (a substitute's) is that one. */
function placeOf({ role, schoolId, sectionId }: RoleHeld): Where {
	if (sectionId !== null) return { ...nowhere, sections: [sectionId] };
	if (rolePlaces[role].byRoster) return { ...nowhere, own: true };
	return schoolId === null ? { ...nowhere, whole: true } : { ...nowhere, schools: [schoolId] };
}

const both = (a: Where, b: Where): Where => ({
	whole: a.whole || b.whole,
	schools: [...new Set([...a.schools, ...b.schools])].sort((x, y) => x - y),
	sections: [...new Set([...a.sections, ...b.sections])].sort((x, y) => x - y),
	own: a.own || b.own
});

/** Somebody with these roles, each with what it is given. */
export function userWith(
	who: Pick<User, 'personId' | 'name' | 'title'>,
	roles: readonly RoleHeld[],
	given: Readonly<Partial<Record<RoleName, readonly Right[]>>> = usualRights
): User {
	const held: Partial<Record<Right, Where>> = {};
	// In one order, so that the same rights are the same text.
	for (const right of rights) {
		for (const role of roles) {
			const place = placeOf(role);
			if (!given[role.role]?.includes(right)) continue;
			if (districtOnly.includes(right) && !place.whole) continue;
			held[right] = both(held[right] ?? nowhere, place);
		}
	}
	return { ...who, roles, rights: held };
}

/** Where a user has a right. */
export const whereOf = ({ rights }: Pick<User, 'rights'>, right: Right): Where =>
	rights[right] ?? nowhere;

/** Whether a user has a right anywhere. */
export const has = ({ rights }: Pick<User, 'rights'>, right: Right): boolean =>
	rights[right] !== undefined;

/** Whether a right holds for a whole school; null is the whole district. */
export function holdsAt(
	user: Pick<User, 'rights'>,
	right: Right,
	schoolId: number | null
): boolean {
	const { whole, schools } = whereOf(user, right);
	return whole || (schoolId !== null && schools.includes(schoolId));
}

/** The schools that somebody works at by their roles, the first first; none is the district. */
export const schoolsOf = ({ roles }: Pick<User, 'roles'>): readonly number[] => [
	...new Set(roles.flatMap((r) => (r.schoolId === null ? [] : [r.schoolId])))
];
