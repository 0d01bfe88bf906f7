import type { Db } from '../../../../../src/lib/server/db/open';
import {
	choicesSchema,
	readChoices,
	setChoices,
	type Choices
} from '../../../../../src/lib/server/desk/family/choices';

/** Somebody changes some of what they get and how, and leaves the rest as it is. */
export async function choose(db: Db, personId: number, over: Partial<Choices>): Promise<number> {
	const { language, wants, quietFrom, quietTo, digest, zone } = await readChoices(db, personId);
	const choices = { language, wants: [...wants], quietFrom, quietTo, digest, zone, ...over };
	return setChoices(db, personId, choicesSchema.parse(choices));
}
