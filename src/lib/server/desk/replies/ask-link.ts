import { readDistrict } from '../../db/district';
import { checkMailAddress } from '../../../core/format/mail-address';
import { toE164 } from '../../../core/format/phone';
import { hashToken, newNonces, personToken } from '../../access/tokens';
import { now } from '../../clock';
import { familyLink } from '../../db/models/access';
import { textAddressesOf } from '../../db/text-addresses';
import type { Db, Query } from '../../db/open';
import { sayByItself } from './say-by-itself';

/** How long a link that was asked for opens the page, ms. */
const linkMs = 24 * 3_600_000;
/** Letters that one address is sent for it in a day, whoever asks; and people of one address. */
const mostInADay = 3;
const mostPeople = 5;

interface Reader {
	readonly personId: number;
	readonly name: string;
	readonly language: string;
}

/** Who reads at an address, of whoever has a page at all. */
async function readersAt(
	tx: Query,
	at: { readonly way: 'email' | 'text'; readonly value: string }
): Promise<Reader[]> {
	const ids =
		at.way === 'text'
			? (await textAddressesOf(tx, at.value))
					.filter((a) => a.consent === 'in')
					.map((a) => a.personId)
			: (
					await tx.all<{ id: number }>(
						`SELECT DISTINCT person_id AS id FROM address WHERE way = 'email' AND value = $value COLLATE NOCASE AND failing IS NULL`,
						{ value: at.value }
					)
				).map((r) => r.id);
	return tx.all<Reader>(
		`SELECT id AS personId, given_name || ' ' || family_name AS name, language FROM person_now
		WHERE id IN (SELECT value FROM json_each($ids)) ORDER BY id LIMIT ${mostPeople}`,
		{ ids: JSON.stringify(ids) }
	);
}

/**
 * Sends whoever reads at an address a link to their own page, each their own; the answer is the same whether anybody
 * does. Of a phone only where texts were allowed. Nothing where what was typed is neither a mailbox nor a number.
 */
export async function askForLink(db: Db, key: Buffer, typed: string): Promise<boolean> {
	const mail = checkMailAddress(typed);
	const phone = toE164(typed, (await readDistrict(db)).country);
	if (!mail.ok && phone === null) return false;
	const to = mail.ok
		? ({ way: 'email', value: mail.value } as const)
		: ({ way: 'text', value: phone! } as const);
	await db.write(async (tx) => {
		const at = Math.round(await now(tx));
		const { n } = (await tx.one<{ n: number }>(
			`SELECT count(*) AS n FROM auto_note WHERE kind = 'link' AND address = $value COLLATE NOCASE AND made_at > $since`,
			{ value: to.value, since: at - 86_400_000 }
		))!;
		if (n >= mostInADay) return;
		for (const { personId, name, language } of await readersAt(tx, to)) {
			const [nonce] = newNonces(1);
			const linkId = await tx.rows(familyLink).add({
				...{ personId, nonce: nonce!, madeBy: personId, endsAt: at + linkMs },
				tokenHash: hashToken(personToken(key, nonce!))
			});
			await sayByItself(
				tx,
				{ kind: 'link', way: to.way, address: to.value, name, language, linkId },
				at
			);
		}
	});
	return true;
}
