import { z } from 'zod';
import type { District } from '../../db/district';
import type { Form } from './form';
import { number } from './form-fields';

/** The form of how long things are kept. */
export const keepingForm: Form<District> = {
	name: 'How long things are kept',
	says: 'What is past its time goes at night, for good. What was counted stays counted: how many copies there were, how many were read and when. A school year is twelve months.',
	fields: [
		{
			name: 'words',
			label: 'Words of letters, and files in them',
			kind: 'number',
			unit: 'months'
		},
		{
			...{ name: 'evidence', label: 'What was said about each copy' },
			...{ kind: 'number', unit: 'months' },
			help: 'Replies of mail servers, reports that came back.'
		},
		{
			...{ name: 'addresses', label: 'Addresses that copies went to or came from' },
			...{ kind: 'number', unit: 'months' },
			help: 'Those on people’s files are the roster’s, and stay.'
		},
		{
			...{ name: 'answers', label: 'What families answered, and we to them' },
			...{ kind: 'number', unit: 'months' },
			help: 'A conversation that still waits is kept.'
		}
	],
	valuesOf: ({ keeping }) => ({
		words: String(keeping.words),
		evidence: String(keeping.evidence),
		addresses: String(keeping.addresses),
		answers: String(keeping.answers)
	}),
	schema: z
		.object({
			words: number('The time of words', 1, 600, 'months'),
			evidence: number('The time of evidence', 1, 600, 'months'),
			addresses: number('The time of addresses', 1, 600, 'months'),
			answers: number('The time of answers', 1, 600, 'months')
		})
		.transform((keeping) => ({ keeping }))
};
