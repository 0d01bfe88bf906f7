import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { DateTime } from 'luxon';
import { openAccount } from '../src/lib/server/access/accounts';
import { hashPassword } from '../src/lib/server/access/passwords';
import { linkKey } from '../src/lib/server/access/link-key';
import { hashToken, newNonces, personToken } from '../src/lib/server/access/tokens';
import { usersWho } from '../src/lib/server/access/user';
import { setClock } from '../src/lib/server/clock';
import { districtSchema, readDistrict, writeSetting } from '../src/lib/server/db/district';
import { migrate } from '../src/lib/server/db/migrate';
import { familyLink } from '../src/lib/server/db/models/access';
import { openDatabase, type Db } from '../src/lib/server/db/open';
import { rosterChanged } from '../src/lib/server/db/roster';
import { keepIdentity } from '../src/lib/server/identity';
import { readSettings, type Settings } from '../src/lib/server/settings';
import { planAhead } from './ahead';
import { answerSome } from './answers';
import { makeDistrict, type District } from './district';
import { makeHistory } from './history';
import { sayWhoComes } from './invited';
import { joinSome } from './joined';
import { keepSome } from './kept';
import { markSome } from './marks';
import { putRows } from './put-rows';
import { takeOwnRoster, writeWinterRoster } from './roster-file';
import { sizes } from './sizes';
import type { PersonRow } from '../src/lib/server/db/models/roster';
import type { CourierRow } from '../src/lib/server/db/models/running';

/** One password for all sample sign-ins; the demo holds nothing worth guarding. */
export const samplePassword = 'slow-ferry';
export const demoZone = 'America/New_York';
/** Tuesday 9 March 2027, 7:40 in the district's zone: five days before the clocks go forward. */
export const demoStart = DateTime.fromISO('2027-03-09T07:40', { zone: demoZone }).toMillis();
const seed = 2027;

/** Puts the district, its settings and its sample sign-ins into an empty database. */
export async function putDistrict(db: Db, district: District): Promise<void> {
	const hash = await hashPassword(samplePassword);
	await db.write(async (tx) => {
		await putRows(tx, district.rows);
		for (const s of district.signIns) {
			await openAccount(tx, { ...s, passwordHash: hash });
		}
		const setting = districtSchema.parse({
			name: 'Brackwater Isles School District',
			zone: demoZone,
			mailFrom: 'letters@brackwater.example',
			// Of an area that no family's number is made of.
			textFrom: '12115550199',
			linkDays: 180,
			fileLimitMegabytes: 20,
			mailLimitMegabytes: 25,
			textPartCents: 0.9,
			// The first boats leave before eight: here texts may come from seven on.
			quiet: { text: { fromMinute: 21 * 60, toMinute: 7 * 60 } }
		});
		await writeSetting(tx, 'district', setting);
		await rosterChanged(tx);
	});
}

/** Gives every person with an inbox a link of their own, and writes the links of those who have nothing else down for the readers. */
export async function putOwnLinks(
	db: Db,
	settings: Settings,
	key: Buffer,
	endsAt: number
): Promise<void> {
	const people = await db.all<Pick<PersonRow, 'id'> & { only: number }>(
		`SELECT id, NOT EXISTS (SELECT 1 FROM address WHERE person_id = person.id
			AND (way = 'email' OR consent = 'in')) AS only
		FROM person WHERE has_inbox = 1 AND id NOT IN (SELECT person_id FROM sign_in) ORDER BY id`
	);
	const nonces = newNonces(people.length);
	const links = people.map((p, i) => ({
		...p,
		nonce: nonces[i]!,
		token: personToken(key, nonces[i]!)
	}));
	await db.rows(familyLink).addMany(
		links.map(({ nonce, token, id }) => ({
			nonce,
			tokenHash: hashToken(token),
			personId: id,
			endsAt
		}))
	);
	const folder = join(settings.dataFolder, 'standin');
	mkdirSync(folder, { recursive: true });
	writeFileSync(
		join(folder, 'own-links.json'),
		JSON.stringify(
			links
				.filter((l) => l.only === 1)
				.map((l) => ({ person: `person-${l.id}`, link: `${settings.publicUrl}/f/${l.token}` }))
		)
	);
}

async function setFaults(settings: Settings, faults: District['faults']): Promise<void> {
	const post = async (url: string, body: unknown) => {
		const response = await fetch(url, { method: 'POST', body: JSON.stringify(body) });
		if (!response.ok) throw new Error(`${url}: ${await response.text()}`);
	};
	for (const f of faults.mailboxes) await post(`${settings.mailhouseUrl}/mailboxes`, f);
	for (const f of faults.phones) await post(`${settings.exchangeUrl}/phones`, f);
}

/** Sets the bench clock to where the courier last saw it, so that a demo that was stopped goes on from there. */
async function resume(db: Db): Promise<void> {
	const last = await db.one<{ at: CourierRow['jobAt'] }>('SELECT job_at AS at FROM courier');
	await setClock(db, Math.max(demoStart, last?.at ?? 0));
}

/** Makes the whole demo in an empty data folder; the stand-ins must be up, since its last days are really sent. */
async function main(): Promise<void> {
	const settings = readSettings();
	const size = sizes[process.env.DEMO_SIZE === 'district' ? 'district' : 'demo'];
	const weeks = Number(process.env.DEMO_WEEKS ?? (size.name === 'demo' ? 13 : 1));
	const say = (line: string) => process.stdout.write(`demo data: ${line}\n`);
	const db = await openDatabase(settings.databaseFile, { durable: false });
	await migrate(db);
	if (await db.one(`SELECT 1 FROM setting WHERE key = 'demo'`)) {
		await resume(db);
		await db.close();
		return;
	}
	const key = await linkKey(settings.dataFolder, db);
	const district = makeDistrict(seed, size, say);
	say('putting it into the database');
	await putDistrict(db, district);
	// The stand-in lets anybody in who has an address under .example: it is there in the demo alone.
	if (process.env.DEMO_IDENTITY !== undefined)
		await db.write((tx) =>
			keepIdentity(tx, key, {
				...{ name: 'Harbor', issuer: process.env.DEMO_IDENTITY!, shown: true },
				...{ clientId: 'idle-courier', secret: 'tide-table', claim: 'email', fits: 'mail' },
				...{ unconfirmed: false, teachers: 'roster', passwords: 'everybody' }
			})
		);
	const students = district.rows.person.filter((p) => p[1] === 'student').length;
	say(
		`${students} students, ${district.rows.person.length - students - district.rows.staff.length} guardians and other contacts, ${district.rows.staff.length} staff, ${district.rows.section.length} sections`
	);
	await setFaults(settings, district.faults);
	await putOwnLinks(
		db,
		settings,
		key,
		DateTime.fromMillis(demoStart).plus({ years: 1 }).toMillis()
	);
	await makeHistory(db, settings, key, {
		weeks,
		until: demoStart,
		zone: demoZone,
		seed: 'brackwater',
		faults: district.faults,
		say
	});
	// The past has left as fast as it could: what went on then nobody watched.
	await writeSetting(db, 'district', {
		...(await readDistrict(db)),
		pace: { email: 1200, text: 600 }
	});
	await answerSome(db, settings, key, { until: demoStart, zone: demoZone });
	await sayWhoComes(db, demoStart);
	await keepSome(db, demoStart);
	await markSome(db, demoStart);
	await joinSome(db, demoStart);
	await setClock(db, demoStart);
	if (weeks > 0) {
		say('its roster as a file, and the one of the winter to be tried');
		const coordinator = (await usersWho(db, 'roster'))[0]!;
		const rows = await takeOwnRoster({ db, dataFolder: settings.dataFolder, key }, coordinator);
		await writeWinterRoster(db, join(settings.dataFolder, 'to-try'), rows);
		await planAhead(db, key, demoZone, demoStart);
	}
	// Marks that the data is whole: what was cut short is made anew.
	await writeSetting(db, 'demo', { seed, weeks, size: size.name });
	await db.close();
}

await main();
process.exit(0);
