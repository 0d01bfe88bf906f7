import { z } from 'zod';
import { holdMinutes } from '../../../core/time/hold';
import type { District } from '../../db/district';
import type { Form } from './form';
import { number, numberOrNone } from './form-fields';

/** The form of hold, pace, price and load. */
export const sendingForm: Form<District> = {
	name: 'Hold, pace, price and load',
	says: 'The hold is what Write offers from now on. The pace spreads what is scheduled anew; price and load are what Write and Week count with.',
	fields: [
		{
			...{ name: 'holdAnnouncement', label: 'Announcements are held', kind: 'number' },
			unit: 'minutes'
		},
		{ name: 'holdMessage', label: 'Messages are held', kind: 'number', unit: 'minutes' },
		{
			...{ name: 'paceEmail', label: 'Emails leave', kind: 'number', unit: 'a minute' },
			help: 'Empty for as many as the mail server takes.'
		},
		{
			...{ name: 'paceText', label: 'Texts leave', kind: 'number', unit: 'a minute' },
			help: 'Empty for as many as the provider takes.'
		},
		{
			...{ name: 'price', label: 'A part of a text costs', kind: 'number', unit: 'cents' },
			help: 'Empty where nobody has said.'
		},
		{
			...{ name: 'load', label: 'A day is heavy for a family with more than', kind: 'number' },
			unit: 'messages'
		}
	],
	valuesOf: ({ holds, pace, textPartCents, loadLimit }) => ({
		holdAnnouncement: String(holds.announcement),
		holdMessage: String(holds.message),
		paceEmail: pace.email === null ? '' : String(pace.email),
		paceText: pace.text === null ? '' : String(pace.text),
		price: textPartCents === 0 ? '' : String(textPartCents),
		load: String(loadLimit)
	}),
	schema: z
		.object({
			holdAnnouncement: number('The hold', 0, holdMinutes.most, 'minutes'),
			holdMessage: number('The hold', 0, holdMinutes.most, 'minutes'),
			paceEmail: numberOrNone('The pace of emails', 1, 1_000_000, 'a minute'),
			paceText: numberOrNone('The pace of texts', 1, 1_000_000, 'a minute'),
			price: z.union(
				[
					z.literal('').transform(() => 0),
					z
						.string()
						.trim()
						.regex(/^\d{1,4}([.,]\d{1,4})?$/)
						.transform((typed) => Number(typed.replace(',', '.')))
				],
				{ error: 'The price is a number of cents, as 0.9, or empty.' }
			),
			load: number('The load of a day', 1, 50, 'messages')
		})
		.transform((v) => ({
			holds: { announcement: v.holdAnnouncement, message: v.holdMessage },
			pace: { email: v.paceEmail, text: v.paceText },
			textPartCents: v.price,
			loadLimit: v.load
		}))
};
