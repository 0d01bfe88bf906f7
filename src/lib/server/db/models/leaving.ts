import { instant, json, text, whole } from './column';
import { table, type Row } from './table';

export const leaving = table(
	'leaving',
	'Everything, or parts of it, packed up to be taken along; its file goes after a day.',
	{
		id: whole().neverTwice(),
		askedBy: whole().of('person'),
		askedAt: instant(),
		/** Which parts, as codes. */
		parts: json(),
		state: text<'making' | 'ready' | 'taken' | 'failed' | 'gone'>(),
		/** Its name in the folder of what leaves. */
		file: text().orNull(),
		bytes: whole().orNull(),
		madeAt: instant().orNull(),
		why: text().orNull(),
		/** Of the link it is taken by. */
		tokenHash: text().orNull(),
		/** The session that opened the link: no other one can. */
		openedIn: whole().orNull(),
		takenAt: instant().orNull()
	}
);
export type LeavingRow = Row<typeof leaving>;
