import { keptNumber } from '../../core/format/phone';
import type { Query } from './open';

/** A number as it stands on somebody's file. */
export interface TextAddress {
	readonly id: number;
	readonly personId: number;
	readonly name: string;
	readonly value: string;
	readonly consent: 'in' | 'out' | 'unknown';
}

/** Every place where a number (E.164) is on file, however it is written there. */
export async function textAddressesOf(db: Query, number: string): Promise<TextAddress[]> {
	const rows = await db.all<TextAddress>(
		`SELECT address.id, person_id AS personId, given_name || ' ' || family_name AS name, value, consent
		FROM address JOIN person ON person.id = person_id WHERE way = 'text' AND substr(value, -2) = $end`,
		{ end: number.slice(-2) }
	);
	return rows.filter((a) => keptNumber(a.value) === number);
}
