import { readDistrict } from '../../db/district';
import { usualTimeOf } from '../../db/school-own';
import { DateTime } from 'luxon';
import { z } from 'zod';
import { isLanguageTag } from '../../../core/copy/language';
import { keptNumber } from '../../../core/format/phone';
import { dispatchKinds, type DispatchKind } from '../../../core/roster/types';
import { now } from '../../clock';
import { address, declined, ownTime, person } from '../../db/models/roster';
import { personChange } from '../../db/models/rosters';
import { autoNote } from '../../db/models/talk';
import type { Db, Query } from '../../db/open';
import { ownChanged } from '../../db/roster';
import { stopPending } from '../track/stop-pending';
import { clockOfMinute } from '../../../core/time/zone';
import { isQuietMinute } from '../../../core/time/quiet';
import { moveWaiting } from './move-waiting';
import type { ChoiceChange, FamilyChoices } from './types';

/** Whoever has a link does not have a phone asked again and again, ms. */
const askAgainMs = 6 * 3_600_000;

/** The ways about which a choice is made by kind; of texts each phone decides for itself. */
const chosenWays = ['email', 'inbox'] as const;

const clockSchema = z
	.literal('')
	.or(z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'A time is written like 21:30.'));
const minuteOf = (clock: string): number | null =>
	clock === '' ? null : Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3));
const clockOf = (minute: number | null): string => (minute === null ? '' : clockOfMinute(minute));

/** What somebody chooses on their page, as the form sends it: what is not ticked is not there. */
export const choicesSchema = z
	.object({
		language: z.string().max(35).refine(isLanguageTag),
		wants: z.array(z.string().max(40)).max(10),
		quietFrom: clockSchema,
		quietTo: clockSchema,
		/** When the ordinary letters of a day come in one; empty where each comes by itself. */
		digest: clockSchema,
		zone: z
			.string()
			.max(60)
			.refine((zone) => zone === '' || DateTime.fromMillis(0, { zone }).isValid)
	})
	.refine(
		({ quietFrom, quietTo, digest }) =>
			[quietFrom, quietTo, digest].includes('') ||
			!isQuietMinute(
				{ fromMinute: minuteOf(quietFrom)!, toMinute: minuteOf(quietTo)! },
				minuteOf(digest)!
			),
		{ path: ['digest'], message: 'The digest would come in the quiet hours.' }
	);
export type Choices = z.infer<typeof choicesSchema>;

const wish = (kind: DispatchKind, way: (typeof chosenWays)[number]) => `${kind} ${way}`;
const everyWish = dispatchKinds.flatMap((kind) => chosenWays.map((way) => ({ kind, way })));

interface Chosen {
	readonly language: string;
	/** "message email" for each kind and way that is wanted. */
	readonly wants: readonly string[];
	readonly quietFrom: string;
	readonly quietTo: string;
	readonly digest: string;
	readonly zone: string;
}

async function chosenBy(db: Query, personId: number): Promise<Chosen> {
	const not = new Set(
		(
			await db.all<{ kind: DispatchKind; way: string }>(
				'SELECT kind, way FROM declined WHERE person_id = $personId',
				{ personId }
			)
		).map((d) => `${d.kind} ${d.way}`)
	);
	const time = await db.rows(ownTime).one({ personId });
	const { language } = (await db.rows(person).one({ id: personId }, ['language']))!;
	return {
		language,
		wants: everyWish.map(({ kind, way }) => wish(kind, way)).filter((w) => !not.has(w)),
		quietFrom: clockOf(time?.quietFrom ?? null),
		quietTo: clockOf(time?.quietTo ?? null),
		digest: clockOf(time?.digestAt ?? null),
		zone: time?.zone ?? ''
	};
}

/** The last changes of what somebody gets, by themselves or by the school. */
const lastChanges = (db: Query, personId: number): Promise<ChoiceChange[]> =>
	db.all<ChoiceChange>(
		`SELECT at, field, before, after, by_id IS $personId AS own FROM person_change
		WHERE person_id = $personId AND field IN ('language', 'wants', 'quiet', 'zone', 'texts', 'digest') ORDER BY id DESC LIMIT 10`,
		{ personId }
	);

/** What somebody gets and how, as they may change it. */
export async function readChoices(db: Query, personId: number): Promise<FamilyChoices> {
	const { zone, quiet } = await usualTimeOf(db, personId);
	const { languages } = await readDistrict(db);
	const chosen = await chosenBy(db, personId);
	const phones = await db.all<{ id: number; value: string; consent: 'in' | 'out' | 'unknown' }>(
		`SELECT id, value, consent FROM address WHERE person_id = $personId AND way = 'text' AND failing IS NULL ORDER BY id`,
		{ personId }
	);
	const mails = await db.all<{ value: string; shared: 0 | 1 }>(
		`SELECT value, EXISTS (SELECT 1 FROM address AS other JOIN person_now ON person_now.id = other.person_id
			WHERE other.value = address.value COLLATE NOCASE AND other.way = 'email' AND other.person_id != $personId) AS shared
		FROM address WHERE person_id = $personId AND way = 'email' AND failing IS NULL ORDER BY id`,
		{ personId }
	);
	return {
		...chosen,
		languages: [...new Set([...languages, chosen.language])],
		phones: phones.map(({ id, value, consent }) => ({ id, value, on: consent === 'in' })),
		mails: mails.map((m) => m.value),
		sharesMail: mails.some((m) => m.shared === 1),
		usualZone: zone,
		usualQuiet: {
			text: { from: clockOf(quiet.text.fromMinute), to: clockOf(quiet.text.toMinute) },
			mail: { from: clockOf(quiet.mail.fromMinute), to: clockOf(quiet.mail.toMinute) }
		},
		changes: await lastChanges(db, personId)
	};
}

/** Changes what somebody gets and how; it holds for every copy that has not been taken in hand. Returns how many things were changed. */
export async function setChoices(db: Db, personId: number, choices: Choices): Promise<number> {
	return db.write(async (tx) => {
		const before = await chosenBy(tx, personId);
		const at = Math.round(await now(tx));
		const lines: { field: string; before: string | null; after: string | null }[] = [];
		const line = (field: string, was: string, is: string) =>
			was !== is && lines.push({ field, before: was || null, after: is || null });
		line('language', before.language, choices.language);
		line('zone', before.zone, choices.zone);
		const quietOf = ({ quietFrom, quietTo }: Pick<Chosen, 'quietFrom' | 'quietTo'>) =>
			quietFrom === '' || quietTo === '' ? '' : `${quietFrom} to ${quietTo}`;
		line('quiet', quietOf(before), quietOf(choices));
		line('digest', before.digest, choices.digest);
		for (const { kind, way } of everyWish) {
			const mark = wish(kind, way);
			const [was, is] = [before.wants.includes(mark), choices.wants.includes(mark)];
			if (was === is) continue;
			lines.push({ field: 'wants', before: was ? mark : null, after: is ? mark : null });
			if (is) await tx.rows(declined).remove({ personId, kind, way });
			else {
				await tx.rows(declined).add({ personId, kind, way });
				await stopPending(
					tx,
					{ way, personId, kind },
					`asked for no ${kind}s ${way === 'email' ? 'by email' : 'in the inbox'}`
				);
			}
		}
		if (lines.length === 0) return 0;
		if (choices.language !== before.language)
			await tx.rows(person).change({ id: personId }, { language: choices.language });
		const quiet = quietOf(choices) !== '';
		await tx.run(
			`INSERT INTO own_time (person_id, zone, quiet_from, quiet_to, digest_at) VALUES ($personId, $zone, $from, $to, $digest)
			ON CONFLICT (person_id) DO UPDATE SET zone = excluded.zone, quiet_from = excluded.quiet_from,
				quiet_to = excluded.quiet_to, digest_at = excluded.digest_at`,
			{
				personId,
				zone: choices.zone || null,
				from: quiet ? minuteOf(choices.quietFrom) : null,
				to: quiet ? minuteOf(choices.quietTo) : null,
				digest: minuteOf(choices.digest)
			}
		);
		await wrote(tx, personId, at, lines);
		if (lines.some((l) => ['quiet', 'zone', 'digest'].includes(l.field)))
			await moveWaiting(tx, personId, at);
		await ownChanged(tx, [personId]);
		return lines.length;
	});
}

const wrote = (
	tx: Query,
	personId: number,
	at: number,
	lines: readonly { field: string; before: string | null; after: string | null }[]
): Promise<void> =>
	tx.rows(personChange).addMany(lines.map((l) => ({ at, byId: personId, personId, ...l })));

/** Stops texts to a phone of theirs at once; or asks the phone, which has to answer YES: whoever has a link must not put texts onto a phone. Null, or why not. */
export async function setTexts(
	db: Db,
	personId: number,
	addressId: number,
	on: boolean
): Promise<'gone' | 'asked-enough' | null> {
	return db.write(async (tx) => {
		const phone = await tx.rows(address).one({ id: addressId, personId, way: 'text' });
		const number = phone && keptNumber(phone.value);
		if (!phone || !number) return 'gone';
		const at = Math.round(await now(tx));
		if (!on) {
			if (phone.consent === 'out') return null;
			await tx
				.rows(address)
				.change(
					{ id: addressId },
					{ consent: 'out', consentAt: at, consentHow: 'own', consentSaid: null }
				);
			await wrote(tx, personId, at, [{ field: 'texts', before: phone.value, after: null }]);
			await stopPending(tx, { way: 'text', address: number }, 'asked for no texts on their page');
			await ownChanged(tx, [personId]);
			return null;
		}
		const asked = await tx.one(
			`SELECT 1 FROM auto_note WHERE address = $number AND kind = 'ask-texts' AND made_at > $since`,
			{ number, since: at - askAgainMs }
		);
		if (asked) return 'asked-enough';
		const { language } = (await tx.rows(person).one({ id: personId }, ['language']))!;
		await tx.rows(autoNote).add({
			...{ kind: 'ask-texts', way: 'text', address: number, language },
			...{ madeAt: at, dueAt: at, state: 'waiting' }
		});
		return null;
	});
}
