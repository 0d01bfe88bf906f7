import { worksHere } from '../../access/accounts';
import { writeDown } from '../../access/log';
import { hasFactor } from '../../access/second-factor';
import { openSession, type Factor, type From, type Opened } from '../../access/sessions';
import { userById, type User } from '../../access/user';
import { isAllowed } from '../../access/may';
import { now } from '../../clock';
import { districtDay } from '../../db/district';
import { outsideName, role, signIn } from '../../db/models/access';
import type { Db, Query } from '../../db/open';
import type { CameBack } from '../../gateway/identity';
import type { IdentityProvider } from '../../identity';
import type { Said } from '../../said';
import { freeUserName } from './own';
import { notYours } from './roles';
import { tellOwner } from './tell-owner';

/** Why somebody who has come back from the identity provider does not come in, by a code for the log. */
const refusals = {
	'no-claim': 'It does not say who you are in the way that is set here',
	unconfirmed: 'It does not say that it has confirmed your mail address',
	nobody: 'Nobody who works here is known by it',
	several: 'More than one person who works here is known by it',
	'other-name': 'Your account here belongs to another name there',
	'by-hand': 'Your address here was written by hand, so you have to be invited first',
	closed: 'Your account here is closed',
	'no-role': 'You have no role here yet'
} as const;
type Refusal = keyof typeof refusals;
const wordsOf = (why: Refusal): string => `${refusals[why]}. Ask whoever looks after the accounts.`;

interface Found {
	readonly personId: number;
	/** They were here by this name before. */
	readonly known: boolean;
}
type Who = Found | { readonly why: Refusal; readonly personId: number | null };

const no = (why: Refusal, personId: number | null = null): Who => ({ why, personId });

/** Everybody by what a claim is compared with; of those alone who work here, or teach by the roster: what a family writes of itself opens no account. */
const finds: Readonly<Record<IdentityProvider['fits'], string>> = {
	'user-name': 'SELECT person_id AS personId FROM sign_in WHERE user_name = lower($value)',
	number: `SELECT person.id AS personId FROM person_now AS person WHERE identifier = $value AND kind = 'adult'`,
	mail: `SELECT DISTINCT person_id AS personId FROM address JOIN person_now AS person ON person.id = person_id
		WHERE way = 'email' AND value = $value COLLATE NOCASE AND kind = 'adult'`
};
const working = `${worksHere} UNION SELECT person_id FROM section_staff`;

/** Whether a mail address was put on somebody's file by another person: whoever looks after addresses opens nobody's account with it. */
const byHand = async (tx: Query, personId: number, value: string): Promise<boolean> =>
	(await tx.one(
		`SELECT 1 FROM person_change WHERE person_id = $personId AND field = 'email' AND after = $value COLLATE NOCASE
			AND file_id IS NULL AND by_id IS NOT $personId
		UNION ALL SELECT 1 FROM mended JOIN address ON address.id = address_id
			WHERE person_id = $personId AND after = $value COLLATE NOCASE AND before != after COLLATE NOCASE`,
		{ personId, value }
	)) !== undefined;

/**
 * Who somebody is that has come back. Issuer and subject are what stays (OpenID Connect Core 1.0
 * section 5.7); the claim finds them the first time alone, so that an address that goes over to
 * another person there gives them nothing here.
 */
async function whoCame(tx: Query, provider: IdentityProvider, came: CameBack): Promise<Who> {
	const { issuer, subject, claims } = came;
	const bound = await tx.rows(outsideName).one({ issuer, subject });
	if (bound) return { personId: bound.personId, known: true };
	const claim = claims[provider.claim];
	const value = typeof claim === 'number' ? String(claim) : claim;
	if (typeof value !== 'string' || value.trim() === '' || value.length > 320) return no('no-claim');
	if (provider.claim === 'email' && claims.email_verified !== true && !provider.unconfirmed)
		return no('unconfirmed');
	const found = await tx.all<{ personId: number }>(
		`SELECT personId FROM (${finds[provider.fits]}) WHERE personId IN (${working}) LIMIT 2`,
		{ value: value.trim() }
	);
	const [one, other] = found;
	if (!one) return no('nobody');
	if (other) return no('several');
	const { personId } = one;
	if (await tx.rows(outsideName).one({ issuer, personId })) return no('other-name', personId);
	const account = await tx.rows(signIn).one({ personId });
	if (!account && provider.fits === 'mail' && (await byHand(tx, personId, value.trim())))
		return no('by-hand', personId);
	return { personId, known: false };
}

/** The school where somebody teaches now by the roster; null where they do not. */
async function teachesAt(tx: Query, personId: number): Promise<number | null> {
	const row = await tx.one<{ schoolId: number }>(
		`SELECT school_id AS schoolId FROM section_staff JOIN section_now AS section ON section.id = section_id
		JOIN course ON course.id = course_id JOIN term ON term.id = term_id
		WHERE person_id = $personId AND ends_on > $today ORDER BY starts_on DESC, section.id LIMIT 1`,
		{ personId, today: await districtDay(tx) }
	);
	return row?.schoolId ?? null;
}

/** Opens the account of somebody who has none yet: they were invited, or teach by the roster. Null where it is opened. */
async function accountFor(
	tx: Query,
	provider: IdentityProvider,
	personId: number
): Promise<Refusal | null> {
	const account = await tx.rows(signIn).one({ personId });
	if (account) return account.closedAt === null ? null : 'closed';
	const given = await tx.rows(role).one({ personId });
	const schoolId = given || provider.teachers === 'invited' ? null : await teachesAt(tx, personId);
	if (!given && schoolId === null) return 'no-role';
	if (schoolId !== null) {
		await tx.rows(role).add({
			...{ personId, role: 'teacher', schoolId, sectionId: null, endsAt: null, givenBy: null },
			startsAt: Math.round(await now(tx))
		});
		await writeDown(tx, {
			...{ act: 'role-given', by: null, to: ['person', personId], schoolId },
			after: { role: 'teacher', school: schoolId }
		});
	}
	const userName = (await freeUserName(tx, personId)) || `colleague${personId}`;
	// No password fits an empty hash.
	await tx.rows(signIn).add({ personId, userName, passwordHash: '', title: '' });
	await writeDown(tx, { act: 'account-opened', by: { personId }, to: ['person', personId] });
	return null;
}

/** Thrown so that what was begun is undone. */
class Refused extends Error {
	constructor(
		readonly why: Refusal,
		readonly personId: number | null
	) {
		super(why);
	}
}

/** Lets somebody in who has come back from the identity provider, or says why not; that is written down. */
export async function signInOutside(
	db: Db,
	provider: IdentityProvider,
	came: CameBack,
	{ before, ...from }: From & { readonly before: string | undefined }
): Promise<Said<Opened>> {
	try {
		const opened = await db.write(async (tx) => {
			const who = await whoCame(tx, provider, came);
			if ('why' in who) throw new Refused(who.why, who.personId);
			const { personId } = who;
			const refused = await accountFor(tx, provider, personId);
			if (refused) throw new Refused(refused, personId);
			// A role may be over, or still to come.
			if (!(await userById(tx, personId))) throw new Refused('no-role', personId);
			if (!who.known) await bind(tx, provider, came, personId);
			const factor: Factor = came.withFactor
				? 'outside'
				: (await hasFactor(tx, personId))
					? 'to-come'
					: 'given';
			return openSession(tx, personId, from, { before, factor });
		});
		return { ok: true, ...opened };
	} catch (error) {
		if (!(error instanceof Refused)) throw error;
		const { why, personId } = error;
		await db.write((tx) =>
			writeDown(tx, {
				...{ act: 'sign-in-refused', by: null },
				...(personId === null ? {} : { to: ['person', personId] as const }),
				after: { what: 'outside', why }
			})
		);
		return { ok: false, why: wordsOf(why) };
	}
}

async function bind(
	tx: Query,
	{ name }: IdentityProvider,
	{ issuer, subject }: CameBack,
	personId: number
): Promise<void> {
	await tx.rows(outsideName).add({ issuer, subject, personId, since: Date.now() });
	await writeDown(tx, { act: 'outside-name', by: { personId }, to: ['person', personId] });
	await tellOwner(tx, personId, {
		subject: `You sign in by ${name} from now on`,
		text: `Your account was signed in to by ${name} for the first time; whoever is you there comes in here from now on. If it was not you, tell whoever looks after the accounts.`
	});
}

/** Whom somebody who has come back would be here, for trying: nothing is changed. */
export async function whoWouldBe(
	db: Query,
	provider: IdentityProvider,
	came: CameBack
): Promise<Said<{ readonly personId: number; readonly name: string }>> {
	const who = await whoCame(db, provider, came);
	if ('why' in who) return { ok: false, why: `${refusals[who.why]}.` };
	const row = (await db.one<{ name: string }>(
		`SELECT given_name || ' ' || family_name AS name FROM person WHERE id = $personId`,
		{ personId: who.personId }
	))!;
	return { ok: true, personId: who.personId, name: row.name };
}

/** Lets go of whoever somebody is at the identity provider: the next one who is found to be them is. Their sessions stay. */
export async function letGoOutside(db: Db, user: User, personId: number): Promise<Said> {
	if (!isAllowed(user, 'accounts')) return notYours;
	return db.write(async (tx): Promise<Said> => {
		if (!(await tx.rows(outsideName).one({ personId })))
			return { ok: false, why: 'They have not signed in from there. Load the page again.' };
		await tx.rows(outsideName).remove({ personId });
		await writeDown(tx, { act: 'outside-let-go', by: user, to: ['person', personId] });
		return { ok: true };
	});
}
