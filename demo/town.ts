import type { WayOut } from '../src/lib/core/roster/way';
import { names, plain } from './names';
import { random, type Random } from './random';
import type { DistrictRows } from './rows';
import type { DistrictSize } from './sizes';

/** Mailboxes and phones that fail, and how. */
export interface Faults {
	readonly mailboxes: { readonly mailbox: string; readonly fault: 'refuse' | 'return' }[];
	readonly phones: { readonly phone: string; readonly fault: 'dead' | 'off' }[];
}

/** Somebody who is to be on the roster. */
export interface NewPerson {
	readonly kind: 'student' | 'adult';
	readonly given: string;
	readonly family: string;
	readonly language: string;
	readonly schoolId?: number;
	readonly grade?: string;
	readonly inbox: boolean;
}

export const yes = (b: boolean): 0 | 1 => (b ? 1 : 0);

const mailDomains = [
	'harbormail.example',
	'islandpost.example',
	'tidebox.example',
	'ferrynet.example'
] as const;

const noRows = (size: DistrictSize): DistrictRows => ({
	school: size.schools.map((s) => [s.id, s.name, s.short]),
	term: [
		[1, 'Fall 2026', '2026-08-31', '2026-12-01'],
		[2, 'Winter 2026–27', '2026-12-01', '2027-03-22'],
		[3, 'Spring 2027', '2027-03-22', '2027-06-19']
	],
	course: [],
	section: [],
	person: [],
	household: [],
	household_member: [],
	contact: [],
	address: [],
	enrolment: [],
	staff: [],
	section_staff: [],
	school_group: [],
	group_member: [],
	declined: []
});

/** The district while it is being made: its rows so far, and the names, mailboxes and numbers still to be had. */
export class Town {
	readonly rows: DistrictRows;
	readonly r: Random;
	readonly name: ReturnType<typeof names>;
	readonly faults: Faults = { mailboxes: [], phones: [] };
	/** Each mailbox name so far, with the number that the next of its name gets. */
	readonly #usedMail = new Map<string, number>();
	#nextPhone = 0;

	constructor(
		seed: number,
		readonly size: DistrictSize
	) {
		this.r = random(seed);
		this.name = names(seed, this.r);
		this.rows = noRows(size);
	}

	addPerson({ kind, given, family, language, schoolId, grade, inbox }: NewPerson): number {
		const id = this.rows.person.length + 1;
		this.rows.person.push([
			id,
			kind,
			given,
			family,
			language,
			schoolId ?? null,
			grade ?? null,
			yes(inbox)
		]);
		return id;
	}

	addAddress(
		personId: number,
		way: WayOut,
		value: string,
		consent: 'in' | 'out' | 'unknown'
	): void {
		this.rows.address.push([this.rows.address.length + 1, personId, way, value, consent]);
	}

	addHousehold(label: string): number {
		const id = this.rows.household.length + 1;
		this.rows.household.push([id, label]);
		return id;
	}

	/** A mailbox that nobody has yet. */
	mailFor(given: string, family: string, domain: string = this.r.pick(mailDomains)): string {
		const base = `${plain(given, 'family')}.${plain(family, 'home')}`;
		const first = `${base}@${domain}`;
		const n = this.#usedMail.get(first) ?? 1;
		this.#usedMail.set(first, n + 1);
		return n === 1 ? first : `${base}${n}@${domain}`;
	}

	#newPhone(): string {
		const { areaCodes } = this.size;
		const code = areaCodes[Math.floor(this.#nextPhone / 100) % areaCodes.length]!;
		const line = 100 + (this.#nextPhone % 100);
		this.#nextPhone += 1;
		return `+1${code}5550${line}`;
	}

	/** Gives an adult of a family their addresses, with the gaps real ones have. */
	reach(personId: number, given: string, family: string, sharedMail: string | null): void {
		const { r, faults } = this;
		if (sharedMail) this.addAddress(personId, 'email', sharedMail, 'unknown');
		else if (r.chance(0.92)) {
			const mailbox = this.mailFor(given, family);
			this.addAddress(personId, 'email', mailbox, r.chance(0.03) ? 'out' : 'unknown');
			if (r.chance(0.025))
				faults.mailboxes.push({ mailbox, fault: r.chance(0.5) ? 'refuse' : 'return' });
		}
		if (r.chance(0.95)) {
			const phone = this.#newPhone();
			this.addAddress(personId, 'text', phone, r.weighted({ in: 68, out: 6, unknown: 26 }));
			if (r.chance(0.02)) faults.phones.push({ phone, fault: r.chance(0.7) ? 'dead' : 'off' });
		}
	}
}
