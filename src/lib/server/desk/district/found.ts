import { IANAZone } from 'luxon';
import { z } from 'zod';
import { openAccount } from '../../access/accounts';
import { useFirstKey } from '../../access/first-key';
import { writeDown } from '../../access/log';
import { asTyped } from '../../access/password-rules';
import { hashPassword } from '../../access/passwords';
import { now } from '../../clock';
import { districtSchema, writeDistrict } from '../../db/district';
import { address, person, staff } from '../../db/models/roster';
import type { Db } from '../../db/open';
import { rosterChanged } from '../../db/roster';
import type { Said } from '../../said';
import { checkMailAddress } from '../../../core/format/mail-address';
import { line, namePart } from '../hand/fields';
import { countrySchema } from './form-fields';
import { chosen, chosenRefused, userNameSchema } from '../work/own';

/** The district, and the first person who works there. */
export const foundSchema = z.object({
	name: namePart('The district’s name'),
	zone: z.string().refine((zone) => IANAZone.isValidZone(zone), 'Choose the zone of its clocks.'),
	clock: z.enum(['12', '24'], 'Choose how a time of day is written.').default('12'),
	country: countrySchema.default('US'),
	givenName: namePart('Your given name'),
	familyName: namePart('Your family name'),
	email: line('Your mail address', 320).refine(
		(typed) => checkMailAddress(typed).ok,
		'Write your own mail address: letters that are tried go to it.'
	),
	userName: userNameSchema,
	...chosen
});

const keyGone = {
	ok: false,
	why: 'This address has been used, or the server was started again since. Open the one that it printed last.'
} as const;

/** Puts down the district and its first person, who may do everything; the key that was printed is used up by it. */
export async function foundDistrict(
	db: Db,
	token: string,
	input: z.infer<typeof foundSchema>
): Promise<Said<{ readonly personId: number }>> {
	const { name, zone, givenName, familyName, userName } = input;
	const weak = chosenRefused(input, [userName, `${givenName} ${familyName}`, name]);
	if (weak !== null) return { ok: false, why: weak };
	const mail = checkMailAddress(input.email);
	if (!mail.ok) return { ok: false, why: `That is no mail address: ${mail.why}.` };
	const passwordHash = await hashPassword(asTyped(input.password));
	return db.write(async (tx): Promise<Said<{ readonly personId: number }>> => {
		if (!(await useFirstKey(tx, token))) return keyGone;
		const district = districtSchema.parse({
			name,
			zone,
			clock: input.clock,
			country: input.country
		});
		await writeDistrict(tx, district);
		const since = Math.round(await now(tx));
		const personId = await tx.rows(person).add({
			...{ kind: 'adult', givenName, familyName, language: district.language, hasInbox: 1 },
			...{ since, goneAt: null }
		});
		await tx.rows(address).add({ personId, way: 'email', value: mail.value, consent: 'in' });
		await tx.rows(staff).add({ personId, schoolId: null, role: 'staff' });
		await openAccount(tx, {
			...{ personId, userName, title: 'Communications', passwordHash },
			...{ role: 'coordinator', schoolId: null }
		});
		await rosterChanged(tx);
		await writeDown(tx, { act: 'founded', by: { personId }, to: ['person', personId] });
		return { ok: true, personId };
	});
}
