import type { DispatchLine } from '$lib/server/desk/week/types';

/** Where a dispatch stands, in the few words of a list. */
export function standing(line: DispatchLine): string {
	if (line.state === 'draft') return 'draft';
	if (line.waits !== null) return 'waits for an answer';
	if (line.ways.length === 0) return 'on boards alone';
	return line.state === 'scheduled'
		? `${line.about ? 'about ' : ''}${line.copies} ${line.copies === 1 ? 'copy' : 'copies'}`
		: `${line.covered} of ${line.students} ${line.unit === 'people' ? 'read it' : 'covered'}`;
}
