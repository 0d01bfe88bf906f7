import type { BoardKind } from '../../../core/audience/board-place';
import { instant, json, nonce, text, whole } from './column';
import { table, type Row } from './table';

export const boardPlace = table(
	'board_place',
	'A board that an announcement stands on, as planned; a course’s are those of its sections in a term.',
	{
		dispatchId: whole().key().of('dispatch', 'CASCADE'),
		kind: text<BoardKind | 'course'>().key(),
		/** 0 for the district. */
		placeId: whole().key(),
		/** Of a course; 0 else. */
		termId: whole().key()
	}
);
export const boardWording = table(
	'board_wording',
	'What boards say of an announcement since somebody changed it there; its copies stay as they left.',
	{
		id: whole().neverTwice(),
		dispatchId: whole().of('dispatch', 'CASCADE'),
		wording: json(),
		at: instant(),
		byId: whole().of('person')
	}
);
export const boardRead = table(
	'board_read',
	'Who read an announcement on a board, and when first.',
	{
		dispatchId: whole().key().of('dispatch', 'CASCADE'),
		personId: whole().key().of('person'),
		at: instant()
	}
);
export const boardLink = table(
	'board_link',
	'A link to one board: for anybody who has it, or one person’s own for a program that follows it.',
	{
		id: whole().neverTwice(),
		kind: text<BoardKind>(),
		/** 0 for the district. */
		placeId: whole(),
		/** Whose own it is: it opens only while they belong to the place. */
		personId: whole().of('person').orNull(),
		tokenHash: text().once(),
		nonce: nonce(),
		madeBy: whole().of('person'),
		madeAt: instant(),
		endedAt: instant().orNull(),
		endedBy: whole().of('person').orNull()
	}
);

export type BoardLinkRow = Row<typeof boardLink>;
export type BoardPlaceRow = Row<typeof boardPlace>;
