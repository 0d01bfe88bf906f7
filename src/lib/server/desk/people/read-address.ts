import { readDistrict } from '../../db/district';
import { checkMailAddress } from '../../../core/format/mail-address';
import { toE164 } from '../../../core/format/phone';
import type { AddressRow } from '../../db/models/roster';
import type { Query } from '../../db/open';
import { saidStop } from '../../db/said-stop';

/** An address as it is kept, from what was typed; or why it is none, or cannot come onto anybody's file. */
export async function readAddress(
	tx: Query,
	way: AddressRow['way'],
	typed: string
): Promise<{ readonly value: string } | { readonly why: string }> {
	if (way === 'email') {
		const mail = checkMailAddress(typed);
		return mail.ok
			? { value: mail.value }
			: { why: `“${typed}” is no mail address: ${mail.why}. Nothing was changed.` };
	}
	const phone = toE164(typed, (await readDistrict(tx)).country);
	if (phone === null)
		return {
			why: `“${typed}” is no phone number. Write it with its area code, or with + and the country code.`
		};
	return (await saidStop(tx, phone))
		? { why: `${phone} answered STOP to our texts. It can be put here once it has sent START.` }
		: { value: phone };
}
