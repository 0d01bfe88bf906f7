import { clockOfMinute, clockWords } from '../../../core/time/zone';
import { ownTime, type DeclinedRow } from '../../db/models/roster';
import { readDistrict } from '../../db/district';
import type { Query } from '../../db/open';

/** What somebody has chosen for themselves, as phrases. */
export async function chosenWords(db: Query, id: number): Promise<string[]> {
	const declined = await db.all<Pick<DeclinedRow, 'kind' | 'way'>>(
		'SELECT kind, way FROM declined WHERE person_id = $id ORDER BY kind, way',
		{ id }
	);
	const { quietFrom, quietTo, digestAt, zone } = (await db.rows(ownTime).one({ personId: id })) ?? {
		...{ quietFrom: null, quietTo: null, digestAt: null, zone: null }
	};
	const { clock: style } = await readDistrict(db);
	const said = (minute: number) => clockWords(clockOfMinute(minute), style);
	return [
		...declined.map((d) => `no ${d.kind}s by ${d.way}`),
		...(digestAt === null ? [] : [`one letter a day, at ${said(digestAt)}`]),
		...(quietFrom === null || quietTo === null
			? []
			: [`own quiet hours ${said(quietFrom)} to ${said(quietTo)}`]),
		...(zone === null ? [] : [`by the clock of ${zone}`])
	];
}
