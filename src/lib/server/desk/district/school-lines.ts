import type { ClockStyle } from '../../../core/copy/clock-style';
import { clockOfMinute, clockWords } from '../../../core/time/zone';
import type { SchoolOwn } from '../../db/school-own';
import type { Query } from '../../db/open';
import { nothingOwn } from './school-form';
import { readSettled } from './settled';
import type { SchoolLine } from './types';

type Hours = NonNullable<SchoolOwn['quiet']>['text'];

/** What a school has of its own, in phrases. */
function ownWords({ zone, quiet, marks, openBoards }: SchoolOwn, style: ClockStyle): string[] {
	const clock = (minute: number) => clockWords(clockOfMinute(minute % 1440), style);
	const span = ({ fromMinute, toMinute }: Hours) => `${clock(fromMinute)} to ${clock(toMinute)}`;
	return [
		...(zone === null ? [] : [`by the clock of ${zone.replaceAll('_', ' ')}`]),
		...(quiet === null
			? []
			: [`texts quiet ${span(quiet.text)}, emails and the inbox ${span(quiet.mail)}`]),
		...(marks === null ? [] : [`school from ${clock(marks[1])} to ${clock(marks[2])}`]),
		...(openBoards === null
			? []
			: [openBoards ? 'boards open to whoever has their link' : 'boards for its families alone'])
	];
}

/** Every school, with what it has of its own. */
export async function schoolLines(db: Query): Promise<SchoolLine[]> {
	const { district, schools } = await readSettled(db);
	const rows = await db.all<{ id: number; name: string }>(
		'SELECT id, name FROM school ORDER BY name'
	);
	return rows.map(({ id, name }) => ({
		...{ id, name },
		own: ownWords(schools.get(id) ?? nothingOwn, district.clock)
	}));
}
