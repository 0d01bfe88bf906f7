import { judgeForecasts } from '../desk/expect/judge-forecasts';
import { keepForecasts } from '../desk/expect/keep-forecasts';
import { learnByNight } from '../desk/expect/learn';
import { dropPastByNight } from '../desk/keep/past-keeping';
import { mendDigest } from '../desk/staff/mend-digest';
import { reportEnded } from '../desk/staff/reports';
import { reportRosters } from '../desk/staff/roster-report';
import { followRoleTimes } from '../desk/work/lost-rights';
import type { Services } from '../services';

/** What is written to the staff by itself, accounts of what has ended, addresses to mend; what goes by night; and what is to be expected, learned, kept and judged. Resolves to how much was done. */
export const byItself = async ({ db, settings, key }: Services): Promise<number> =>
	(await followRoleTimes(db, key)) +
	(await reportEnded(db, settings.publicUrl)) +
	(await mendDigest(db, settings.publicUrl)) +
	(await reportRosters(db, settings.publicUrl)) +
	(await dropPastByNight(db, settings.dataFolder)) +
	(await learnByNight(db)) +
	(await keepForecasts(db)) +
	(await judgeForecasts(db));
