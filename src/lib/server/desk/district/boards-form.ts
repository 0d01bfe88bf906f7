import { z } from 'zod';
import { usualFront } from '../../../core/plan/board';
import type { District } from '../../db/district';
import type { Form } from './form';
import { number } from './form-fields';

/** Who may open a board. */
export const openChoices = [
	{ value: 'no', text: 'for the families of a place alone' },
	{ value: 'yes', text: 'also for anybody who has the link of a board' }
];
export const openSchema = z
	.enum(['yes', 'no'], 'Choose for whom the boards are.')
	.transform((said) => said === 'yes');

/** The form of how boards look, and for whom they are. */
export const boardsForm: Form<District> = {
	name: 'Boards',
	says: 'For every board at once. On a board that anybody can open stand no names of people and no file that was marked private; a school can decide for its own.',
	fields: [
		{
			...{ name: 'front', label: 'Announcements in front', kind: 'number' },
			help: `Beside those that are pinned; the others stand behind them. ${usualFront} is usual.`
		},
		{ ...{ name: 'open', label: 'Boards are', kind: 'choice' }, choices: openChoices }
	],
	valuesOf: ({ boards }) => ({ front: String(boards.front), open: boards.open ? 'yes' : 'no' }),
	schema: z
		.object({ front: number('Announcements in front', 1, 20, 'announcements'), open: openSchema })
		.transform((boards) => ({ boards }))
};
