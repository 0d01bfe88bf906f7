import type { RoleName } from '../../db/models/access';
import type { Right } from '../../access/rights';
import type { SessionShown } from '../../access/sessions';

/** Each role by its name, and what it is for. */
export const roleWords: Readonly<
	Record<RoleName, { readonly name: string; readonly about: string }>
> = {
	coordinator: { name: 'Coordinator', about: 'looks after the whole, for the district' },
	principal: { name: 'Principal', about: 'leads a school' },
	office: { name: 'School office', about: 'looks after a school’s people' },
	teacher: {
		name: 'Teacher',
		about: 'has the sections that the roster names; who stands in has the one that is named'
	},
	helper: { name: 'Helper', about: 'reads and answers for a school' },
	operator: { name: 'Operator', about: 'keeps the machine running, and sees no letters' }
};

/** What a role can be, and the schools it can be given for. */
export interface RoleChoices {
	readonly schools: readonly { readonly id: number; readonly name: string }[];
	readonly roles: readonly {
		readonly role: RoleName;
		readonly name: string;
		readonly about: string;
		/** Where it can be given. */
		readonly district: boolean;
		readonly school: boolean;
		readonly section: boolean;
	}[];
}

/** A role that somebody has, had or will have. */
export interface RoleLine {
	readonly id: number;
	readonly role: RoleName;
	/** "Teacher". */
	readonly name: string;
	/** "Brackwater Middle", "Homeroom 4-A", "the whole district", "the sections of the roster". */
	readonly place: string;
	/** Instants, ms; 0 from the beginning. */
	readonly startsAt: number;
	readonly endsAt: number | null;
	readonly state: 'coming' | 'now' | 'over';
}

/** Somebody who works here, as a line of the list. */
export interface AccountLine {
	readonly personId: number;
	readonly name: string;
	/** Null where they were invited and have not come yet. */
	readonly userName: string | null;
	readonly title: string;
	readonly roles: readonly RoleLine[];
	/** When they last did something (instant, ms); null where no session is known. */
	readonly seenAt: number | null;
	readonly factor: boolean;
	readonly state: 'open' | 'invited' | 'invitation-over' | 'closed' | 'gone';
}

/** What a right means, and where somebody has it, in words. */
export interface RightSaid {
	readonly right: Right;
	readonly words: string;
	readonly where: string;
}

/** One who works here. */
export interface AccountView extends AccountLine {
	readonly email: string | null;
	readonly sessions: readonly SessionShown[];
	/** They have come in by the identity provider. */
	readonly outside: boolean;
	readonly rights: readonly RightSaid[];
	/** What they see, counted as they would see it. */
	readonly sees: {
		readonly sections: number;
		readonly students: number;
		readonly people: number;
		readonly dispatches: number;
		readonly conversations: number;
		/** Some of the sections by name. */
		readonly named: readonly string[];
	} | null;
	/** They are whoever looks. */
	readonly self: boolean;
}

/** What a role can do. */
export interface RoleRights {
	readonly role: RoleName;
	readonly name: string;
	readonly about: string;
	readonly rights: readonly Right[];
	/** How many have it today. */
	readonly people: number;
	/** Whether a second factor is asked for of whoever has it. */
	readonly factor: boolean;
}
