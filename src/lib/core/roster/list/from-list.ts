import type { ListLine } from '../../format/contact-list/line';
import { fold } from '../../format/fold';
import { groupBy } from '../../group-by';
import { keyOf, type noThings } from '../things';

type Made = ReturnType<typeof noThings>;

const nameMark = (line: Pick<ListLine, 'givenName' | 'familyName'>): string =>
	fold(`${line.givenName} ${line.familyName}`.trim());

/** A contact of one student by name: under this a list knows an adult of whom it has no number. */
export const contactKey = (line: Pick<ListLine, 'givenName' | 'familyName' | 'student'>): string =>
	`${nameMark(line)}\n${line.student}`;

/** A number of the list; a key of ours, under which somebody left, is theirs as it is. */
const numberKey = (number: string): string =>
	/^ic-person-\d{1,15}-[0-9a-f]{12}$/.test(number) ? number : `number ${number}`;

/** The key of a student's own home, as a list means it. */
export const homeKey = (student: string): string => `home of ${student}`;

/**
 * The adults and ties that the lines of a contact list come to. Lines of one number are one person; so
 * are lines of one name that have an address or number in common. Students are not in it: a list names
 * them, and has nothing to say of them.
 */
export function addListed(lines: ReadonlyMap<string, ListLine>, things: Made): void {
	const people = personKeys([...lines.values()]);
	for (const line of lines.values()) {
		const person = people.get(line)!;
		addPerson(line, person, things);
		things.contact.set(keyOf(line.student, person), {
			...{ student: line.student, person, relation: line.relation },
			...(line.guardian === undefined ? {} : { guardian: line.guardian }),
			...(line.custody === undefined ? {} : { custody: line.custody }),
			...(line.correspondence === undefined ? {} : { correspondence: line.correspondence }),
			...(line.emergency === undefined ? {} : { emergency: line.emergency })
		});
		if (!line.livesWith) continue;
		const home = homeKey(line.student);
		things.household.set(home, { name: line.familyName });
		for (const member of [line.student, person])
			things.householdMember.set(keyOf(home, member), { household: home, person: member });
	}
}

/** The key of the person of each line. */
export function personKeys(lines: readonly ListLine[]): Map<ListLine, string> {
	const keys = new Map<ListLine, string>();
	for (const line of lines) if (line.number !== null) keys.set(line, numberKey(line.number));
	const byName = groupBy(
		lines.filter((l) => l.number === null),
		nameMark
	);
	for (const same of byName.values()) {
		// Whoever shares an address with one that is known already is that one.
		const groups: { readonly marks: Set<string>; readonly lines: ListLine[] }[] = [];
		for (const line of same) {
			const marks = [line.email?.toLowerCase(), line.sms, line.phone, line.student].filter(
				(mark): mark is string => !!mark
			);
			const hit = groups.filter((g) => marks.some((mark) => g.marks.has(mark)));
			const group = hit[0] ?? { marks: new Set(), lines: [] };
			if (hit.length === 0) groups.push(group);
			for (const other of hit.slice(1)) {
				other.marks.forEach((mark) => group.marks.add(mark));
				group.lines.push(...other.lines);
				groups.splice(groups.indexOf(other), 1);
			}
			marks.forEach((mark) => group.marks.add(mark));
			group.lines.push(line);
		}
		for (const group of groups) {
			const key = group.lines.map(contactKey).sort()[0]!;
			for (const line of group.lines) keys.set(line, key);
		}
	}
	return keys;
}

/** A person as all their lines together say them: the first line that speaks of something counts. */
function addPerson(line: ListLine, key: string, things: Made): void {
	const { givenName, familyName, email, sms, phone, language, texts, textsSince } = line;
	things.person.set(key, {
		...{ kind: 'adult', givenName, familyName },
		...(email === undefined ? {} : { email }),
		...(sms === undefined ? {} : { sms }),
		...(phone === undefined || phone === sms ? {} : { phone }),
		...(language === undefined ? {} : { language }),
		...(texts === undefined ? {} : { texts }),
		...(textsSince ? { textsSince } : {}),
		...things.person.get(key)
	});
}
