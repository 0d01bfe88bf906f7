import type { MarkerKind } from '../../core/roster/marker';
import { groupBy } from '../../core/group-by';
import { districtDay } from './district';
import type { MarkedRow } from './models/roster';
import type { Bind, Query } from './open';

/** A marker by name; the school tells those of one name apart. */
export interface MarkerName {
	readonly id: number;
	readonly name: string;
	readonly kind: MarkerKind;
	/** Short name of the school it is of; null for the whole district. */
	readonly school: string | null;
}

/** Markers by a condition on `marker`, whether they have ended or not. */
export const markerNames = (db: Query, condition: string, bind: Bind): Promise<MarkerName[]> =>
	db.all<MarkerName>(
		`SELECT marker.id, marker.name, marker.kind, short_name AS school FROM marker
		LEFT JOIN school ON school.id = school_id WHERE ${condition} ORDER BY marker.name, marker.id LIMIT 2000`,
		bind
	);

/** A marker that was not given up, and whose term, where it ends with one, has not ended by the district's day. */
export async function markerStands(db: Query): Promise<{ sql: string; bind: Bind }> {
	return {
		sql: `(marker.gone_at IS NULL AND (marker.term_id IS NULL
			OR marker.term_id IN (SELECT id FROM term WHERE ends_on > $markerDay)))`,
		bind: { markerDay: await districtDay(db) }
	};
}

/** What markers say of the students who have them: by marker, then by student. Each marker asked for has an entry. */
export async function marksOf(
	db: Query,
	ids: readonly number[]
): Promise<ReadonlyMap<number, ReadonlyMap<number, string>>> {
	if (ids.length === 0) return new Map();
	const rows = groupBy(
		await db.all<Pick<MarkedRow, 'markerId' | 'studentId'> & { value: string }>(
			`SELECT marker_id AS markerId, student_id AS studentId, value FROM marked
			WHERE value IS NOT NULL AND marker_id IN (SELECT value FROM json_each($ids))`,
			{ ids: JSON.stringify(ids) }
		),
		(row) => row.markerId
	);
	return new Map(
		ids.map((id) => [id, new Map((rows.get(id) ?? []).map((row) => [row.studentId, row.value]))])
	);
}

/** What markers stand at: the same mark means that they say the same of everybody. */
export async function marksMark(db: Query, ids: readonly number[]): Promise<string> {
	if (ids.length === 0) return '';
	const stands = await markerStands(db);
	const rows = await db.all<{ id: number; version: number; stands: number }>(
		`SELECT id, version, ${stands.sql} AS stands FROM marker
		WHERE id IN (SELECT value FROM json_each($ids)) ORDER BY id`,
		{ ids: JSON.stringify(ids), ...stands.bind }
	);
	return JSON.stringify(rows.map((r) => [r.id, r.version, r.stands]));
}
