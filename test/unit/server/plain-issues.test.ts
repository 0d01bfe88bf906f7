import { expect } from 'chai';
import { z } from 'zod';
import { plainIssue } from '../../../src/lib/server/plain-issues';
import { closureInputSchema } from '../../../src/lib/server/desk/calendar/closures';
import { sheetSchema } from '../../../src/lib/server/desk/sheet/sheet';
import { sheetOf } from './database';

describe('what is wrong with a value', () => {
	const said = (schema: z.ZodType, value: unknown): string[] => {
		const read = schema.safeParse(value, { error: plainIssue });
		return read.success ? [] : read.error.issues.map((i) => i.message);
	};
	it('is said in our words, whatever it is', () => {
		const schema = z.object({
			n: z.number().int().min(1).max(5),
			s: z.string().min(1).max(3),
			d: z.iso.date(),
			k: z.enum(['a', 'b']),
			l: z.array(z.string()).max(1),
			u: z.uuid(),
			m: z.email()
		});
		expect(
			said(schema, { n: NaN, s: '', d: '2027-02-30', k: 'c', l: ['x', 'y'], u: 'x', m: 'x' })
		).to.deep.equal([
			'must be a number',
			'is empty',
			'is no day of the calendar',
			'must be one of a, b',
			'has more than 1',
			'is not the key of a sheet',
			'is no mail address'
		]);
		expect(said(schema, {})).to.deep.equal(Array.from({ length: 7 }, () => 'is missing'));
		expect(
			said(schema, { n: 0.5, s: 'abcd', d: '2027-02-03', k: 'a', l: [], u: 'x', m: 'x' })[1]
		).to.equal('has more than 3 characters');
	});
	it('of a sheet with anything broken in it never sounds like a program', () => {
		const sheet = sheetOf() as unknown as Record<string, unknown>;
		for (const key of Object.keys(sheet)) {
			for (const wrong of [null, 5, 'x', [], {}, NaN, [{ ids: 'no' }]]) {
				for (const message of said(sheetSchema, { ...sheet, [key]: wrong })) {
					expect(message, `${key} ${JSON.stringify(wrong)}`).not.to.match(
						/invalid|expected|received|input|nan|iso|zod|undefined/i
					);
				}
			}
		}
		expect(
			said(closureInputSchema, { name: 'x', startsOn: 'soon', lastOn: '', schoolId: null }).join()
		).not.to.match(/invalid/i);
	});
});
