import { passwordLength } from '../../access/password-rules';
import { begunFactor, hasFactor, recoveryLeft } from '../../access/second-factor';
import { sessionsOf } from '../../access/sessions';
import type { User } from '../../access/user';
import { signIn } from '../../db/models/access';
import type { Db } from '../../db/open';
import { codePath } from '../../paper/qr-code';
import { mustSetFactor } from './must-factor';

/** How somebody signs in, for their own page. */
export async function ownSignIn(db: Db, key: Buffer, user: User, sessionId: number) {
	const { personId } = user;
	const { userName, passwordHash } = (await db.rows(signIn).one({ personId }))!;
	const begun = await begunFactor(db, key, { personId, userName });
	return {
		userName,
		hasPassword: passwordHash !== '',
		least: passwordLength.least,
		factor: await hasFactor(db, personId),
		must: await mustSetFactor(db, user),
		begun: begun && {
			secret: begun.secret.replace(/(.{4})(?=.)/g, '$1 '),
			square: codePath(begun.address)
		},
		codesLeft: await recoveryLeft(db, personId),
		sessions: (await sessionsOf(db, personId)).map((s) => ({ ...s, here: s.id === sessionId }))
	};
}
