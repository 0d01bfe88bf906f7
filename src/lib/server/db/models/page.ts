import { tables } from './all';
import type { Column } from './column';
import { inDatabase, type Table } from './table';

/** "school_id → school", "id (key)", "reply_to ?". */
function columnText(name: string, { options }: Column<unknown, boolean>): string {
	const to = (options.references as { model: string } | undefined)?.model;
	return [
		`\`${inDatabase(name)}\``,
		options.primaryKey ? '(key)' : options.unique ? '(once)' : '',
		options.allowNull ? '?' : '',
		to ? `→ ${to}${options.onDelete === 'CASCADE' ? ' (goes with it)' : ''}` : ''
	]
		.filter(Boolean)
		.join(' ');
}

const tableLine = ({ name, about, columns }: Table): string =>
	`| \`${name}\` | ${about} | ${Object.entries(columns)
		.map(([column, c]) => columnText(column, c))
		.join(', ')} |`;

/** `docs/SCHEMA.md`: a line for each table, made from the models. */
export const schemaPage = (): string =>
	[
		'# The tables',
		'',
		'Made from `src/lib/server/db/models` by `npm run schema`; a test holds it to them, and them to the migrated database.',
		'',
		'Instants are ms since the epoch, days ISO dates, yes and no 1 and 0, structured values JSON. `?` may hold nothing, `→` names a row of another table, `(once)` is in no two rows. The views `person_now`, `section_now`, `enrolment_now`, `contact_now` and `household_now` leave out what has gone; `person_words`, `dispatch_words` and `section_words` are full-text indexes, kept by triggers.',
		'',
		...tables.flatMap(([about, list]) => [
			`## ${about}`,
			'',
			'| table | what it is for | columns |',
			'| --- | --- | --- |',
			...list.map(tableLine),
			''
		])
	].join('\n');
