import { textWithoutNames } from '../../core/copy/without-names';
import { namesOnFile } from '../db/person-names';
import { comingPhrases } from '../../core/copy/coming-phrases';
import type { Asked } from '../desk/sheet/asked';
import { now } from '../clock';
import { readDistrict } from '../db/district';
import { joinOffered, languagesWanted } from '../desk/joining/by-link';
import type { Query } from '../db/open';

/** What every page of an invitation for somebody from outside says of itself, naming nobody on file; `chosen` is the language somebody has chosen there. */
export async function comingPage(
	db: Query,
	{ subject, zone }: Asked,
	{ chosen, request, usual }: { chosen: string | null; request: Request; usual?: string }
) {
	const { name, clock } = await readDistrict(db);
	const wanted = await languagesWanted(db, request.headers.get('accept-language'));
	const { tag } = comingPhrases(...[chosen, usual].flatMap((l) => l ?? []), ...wanted);
	return {
		...{ language: tag, district: name, zone, clock, now: await now(db) },
		subject: textWithoutNames(subject, await namesOnFile(db)),
		offered: await joinOffered(db)
	};
}
