import type { FieldValue } from '../../../core/roster/things';
import type { Value } from '../../db/many';
import type { NewRow } from '../../db/models/table';
import type { personChange } from '../../db/models/rosters';
import type { Compared } from './compare';
import { disputesOf } from './plan-work';

type Line = Omit<NewRow<typeof personChange>, 'at' | 'byId' | 'fileId'>;

const yesOrNo = (value: Value | undefined): string | null =>
	value === 1 ? 'yes' : value === 0 ? 'no' : null;

const text = (value: FieldValue | undefined): string | null =>
	value === undefined || value === null
		? null
		: typeof value === 'boolean'
			? value
				? 'yes'
				: 'no'
			: value;

/**
 * What a file changes of people who were known before, for their page: field by field, who came and
 * went. Of new people nothing need be said: they are here since then. Schools stand in it by their
 * names in the source.
 */
export function historyOf({ done, work }: Pick<Compared, 'done' | 'work'>): Line[] {
	const lines: Line[] = [];
	const put = (line: Partial<Line> & Pick<Line, 'personId' | 'field'>) =>
		lines.push({ aboutId: null, before: null, after: null, disputed: 0, ...line });
	const fresh = new Set(work.person.put.map((row) => row.id as number));
	for (const one of done) {
		const { change, step, here, rowId } = one;
		if (change.kind !== 'person' || rowId === null || step.what === 'new') continue;
		if (step.what === 'gone') put({ personId: rowId, field: 'gone' });
		else {
			if (step.what === 'back') put({ personId: rowId, field: 'back' });
			const disputed = new Set(disputesOf(one).map((d) => d.field));
			for (const [field, value] of Object.entries(step.set))
				put({
					personId: rowId,
					field,
					before: text(here!.thing[field]),
					after: text(value),
					disputed: disputed.has(field) ? 1 : 0
				});
		}
	}
	for (const row of work.contact.put)
		if (!fresh.has(row.person_id as number))
			put({
				personId: row.person_id as number,
				aboutId: row.student_id as number,
				field: 'relation',
				after: row.relation as string
			});
	for (const { before, after } of work.contact.change) {
		const of = { personId: after.person_id as number, aboutId: after.student_id as number };
		if (before.gone_at === null && after.gone_at !== null)
			put({ ...of, field: 'relation', before: before.relation as string });
		else if (before.gone_at !== null || before.relation !== after.relation)
			put({
				...of,
				field: 'relation',
				before: before.gone_at === null ? (before.relation as string) : null,
				after: after.relation as string
			});
		if (after.gone_at !== null) continue;
		for (const field of ['guardian', 'custody', 'correspondence', 'emergency'] as const)
			if (before[field] !== after[field])
				put({ ...of, field, before: yesOrNo(before[field]), after: yesOrNo(after[field]) });
	}
	return lines;
}
