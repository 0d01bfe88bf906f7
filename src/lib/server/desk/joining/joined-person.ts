import { fold } from '../../../core/format/fold';
import { knownAddress } from '../../../core/roster/roster';
import type { JoiningRow } from '../../db/models/joining';
import { address, person, type AddressRow, type PersonRow } from '../../db/models/roster';
import type { Query } from '../../db/open';

/** Somebody on file by the address that is joined with. */
interface Holder extends Pick<AddressRow, 'id' | 'personId' | 'way' | 'value' | 'consent'> {
	readonly name: string;
	readonly language: string;
}

/** Everybody here now who has an address on file, however it is written there. */
export async function holdersOf(
	tx: Query,
	{ way, address: value, addressKey }: Pick<JoiningRow, 'way' | 'address' | 'addressKey'>
): Promise<Holder[]> {
	const rows = await tx.all<Holder>(
		`SELECT address.id, person_id AS personId, way, value, consent,
			given_name || ' ' || family_name AS name, language
		FROM address JOIN person_now AS person ON person.id = person_id
		WHERE way = $way AND ${way === 'text' ? 'substr(value, -2) = $part' : 'value = $part COLLATE NOCASE'}
		ORDER BY address.id`,
		{ way, part: way === 'text' ? value.slice(-2) : value }
	);
	return rows.filter((r) => knownAddress({ ...r, failing: null }).key === addressKey);
}

/** The language of somebody on file by an address; undefined where nobody is. */
export const languageAt = async (
	tx: Query,
	at: Pick<JoiningRow, 'way' | 'address' | 'addressKey'>
): Promise<string | undefined> => (await holdersOf(tx, at))[0]?.language;

/** Whether somebody on file has a name, however it is written. */
export const isNamed = (
	{ name }: Pick<Holder, 'name'>,
	{ givenName, familyName }: Pick<PersonRow, 'givenName' | 'familyName'>
): boolean => fold(name.trim()) === fold(`${givenName} ${familyName}`.trim());

/** Lets them be written to at the address they joined with: they have said so from there, which also shows that it works. */
export async function letWrite(
	tx: Query,
	personId: number,
	row: Pick<JoiningRow, 'way' | 'address' | 'addressKey'>,
	group: string,
	at: number
): Promise<void> {
	const said: Partial<AddressRow> & Pick<AddressRow, 'consent'> = {
		...{ consent: 'in', consentAt: at, consentHow: 'joined', consentSaid: `joined ${group}` },
		...{ failing: null, failingSince: null }
	};
	const own = (await holdersOf(tx, row)).find((h) => h.personId === personId);
	if (own) await tx.rows(address).change({ id: own.id }, said);
	else await tx.rows(address).add({ personId, way: row.way, value: row.address, ...said });
}

/**
 * Who joins: somebody on file whose address and name it is, or whoever joined from there before; else
 * somebody new. A name that is not on file beside the address makes somebody else of it: a phone may
 * be a family's, and nobody learns by joining who is on file.
 */
export async function personJoining(
	tx: Query,
	row: Pick<JoiningRow, 'way' | 'address' | 'addressKey' | 'personId' | 'madePerson' | 'language'>,
	{ givenName, familyName }: Pick<PersonRow, 'givenName' | 'familyName'>,
	at: number
): Promise<{ readonly personId: number; readonly madePerson: 0 | 1 }> {
	const holder = (await holdersOf(tx, row)).find((h) => isNamed(h, { givenName, familyName }));
	const before =
		row.personId !== null && row.madePerson === 1
			? await tx.rows(person).one({ id: row.personId })
			: undefined;
	let personId: number;
	let madePerson: 0 | 1 = 1;
	if (holder) {
		personId = holder.personId;
		// Also where they are on file since they joined another group.
		const made = await tx.one('SELECT 1 FROM joining WHERE person_id = $personId AND made_person', {
			personId
		});
		madePerson = made ? 1 : 0;
	} else {
		const said = { givenName, familyName, language: row.language };
		if (before && before.sameAs === null) {
			personId = before.id;
			await tx.rows(person).change({ id: personId }, { ...said, goneAt: null });
		} else personId = await tx.rows(person).add({ kind: 'adult', ...said, hasInbox: 0, since: at });
	}
	return { personId, madePerson };
}
