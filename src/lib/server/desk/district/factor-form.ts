import { z } from 'zod';
import type { District } from '../../db/district';
import { roles } from '../../db/models/access';
import { roleWords } from '../work/types';
import type { Form } from './form';
import { number, ticked } from './form-fields';

/** The form of the second factor and how long a session lasts. */
export const factorForm: Form<District> = {
	name: 'Second factor and sessions',
	says: 'Of whoever has one of these roles a code from an app is asked for after the password. Who has none yet sets it up before anything else opens, at their next request. A session ends when it was not used for a while, and after fourteen hours in any case.',
	fields: [
		{
			...{ name: 'roles', label: 'It is asked for of', kind: 'many' },
			choices: roles.map((value) => ({ value, text: roleWords[value].name }))
		},
		{
			...{ name: 'idle', label: 'A session ends when it was not used for', kind: 'number' },
			unit: 'hours'
		}
	],
	valuesOf: ({ factorFor, idleHours }) => ({
		roles: [...factorFor].sort(),
		idle: String(idleHours)
	}),
	schema: z
		.object({ roles: ticked(roles), idle: number('The time', 1, 14, 'hours') })
		.transform(({ roles: asked, idle }) => ({ factorFor: asked, idleHours: idle }))
};
