import type { Db } from '../../db/open';
import { readDistrict } from '../../db/district';

/** A letter on its way out, as RFC 5322 has it. */
export interface LetterOut {
	readonly from: string;
	readonly at: Date;
	readonly octets: Buffer;
}

/** What letters are made with. */
export interface LettersHouse {
	readonly db: Db;
	readonly dataFolder: string;
	readonly publicUrl: string;
}

/** The district as it stands in letters; one without a mail server has an address that leads nowhere (RFC 2606 section 2). */
export async function districtMailbox(
	db: Db
): Promise<{ readonly name: string; readonly address: string }> {
	const { name, mailFrom } = await readDistrict(db);
	return { name, address: mailFrom || 'letters@district.invalid' };
}
