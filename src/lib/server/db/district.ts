import { z } from 'zod';
import type { Query } from './open';

/** What the district decides for itself. */
const districtSchema = z.object({
	name: z.string().min(1),
	/** IANA name of the zone of all times shown. */
	zone: z.string().min(1),
	/** From address of mail; the name before it is the sender's. */
	mailFrom: z.email(),
	/** Number or name that texts come from. */
	textFrom: z.string().min(1).max(20),
	/** How long a private link in a copy opens the inbox. */
	linkDays: z.number().int().min(1),
	/** What the text provider takes for one part, cents; 0 where nobody has said. */
	textPartCents: z.number().min(0).default(0),
	/** Biggest file that is taken in, MB. What the web server takes (BODY_SIZE_LIMIT) must be a little more. */
	fileLimitMegabytes: z.number().min(1).max(100).default(20),
	/** The size of a letter that mail systems refuse, MB; 25 is common practice. */
	mailLimitMegabytes: z.number().min(1).max(200).default(25)
});
export type District = z.infer<typeof districtSchema>;

export async function readDistrict(db: Query): Promise<District> {
	const row = await db.one<{ value: string }>(`SELECT value FROM setting WHERE key = 'district'`);
	if (!row) {
		throw new Error('The database holds no district yet. Make the demo data or import a roster.');
	}
	return districtSchema.parse(JSON.parse(row.value));
}

export async function writeSetting(db: Query, key: string, value: unknown): Promise<void> {
	await db.run(
		`INSERT INTO setting (key, value) VALUES ($key, $value)
		ON CONFLICT (key) DO UPDATE SET value = excluded.value`,
		{ key, value: JSON.stringify(value) }
	);
}
