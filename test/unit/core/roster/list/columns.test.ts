import { expect } from 'chai';
import { listFieldNames, whyNotColumns } from '../../../../../src/lib/core/roster/list/fields';
import { matchColumns } from '../../../../../src/lib/core/roster/list/match-columns';
import {
	orderOf,
	readDay,
	readLanguage,
	readYes
} from '../../../../../src/lib/core/roster/list/values';

const match = (heading: string, ...rows: string[]) =>
	matchColumns(
		heading.split('|'),
		rows.map((r) => r.split('|')),
		'US'
	);

describe('what the columns of a contact list are', () => {
	it('is found by heading, the student’s apart from the contact’s', () => {
		// Headings as offices write them: common practice.
		expect(
			match(
				'Student ID|Student Last Name|Student First Name|Grade|Contact First Name|Contact Last Name|Relationship|Email|Cell Phone|Home Phone'
			)
		).to.deep.equal([
			...['studentNumber', 'studentFamilyName', 'studentGivenName', 'studentGrade', 'givenName'],
			...['familyName', 'relation', 'email', 'sms', 'phone']
		]);
		expect(
			match(
				'student_number|parent_name|relation_to_student|home_language|lives_with_student|custody|emergency_contact|sms_opt_in|opt_in_date'
			)
		).to.deep.equal([
			...['studentNumber', 'name', 'relation', 'language', 'livesWith', 'custody', 'emergency'],
			...['texts', 'textsSince']
		]);
		expect(match('Student|Name|Phone')).to.deep.equal(['studentName', 'name', 'phone']);
	});

	it('is found by what stands in them where the heading says nothing', () => {
		expect(
			match(
				'A|B|C|D|E',
				'x1|ana@islandpost.example|mother|Portuguese|207 555 0101',
				'x2|bo@islandpost.example|uncle|Spanish|(207) 555-0102'
			)
		).to.deep.equal([null, 'email', 'relation', 'language', 'sms']);
	});

	it('what stands in a column speaks against its heading', () => {
		// A column of names that is headed "Guardian" is no yes or no.
		expect(match('Student ID|Guardian', '1|Delfina Amaro', '2|Bao Pham')).to.deep.equal([
			'studentNumber',
			null
		]);
		expect(match('Student ID|Guardian', '1|yes', '2|N')).to.deep.equal([
			'studentNumber',
			'guardian'
		]);
		expect(match('Student ID|Email', '1|see office', '2|none')).to.deep.equal([
			'studentNumber',
			null
		]);
	});

	it('each field is of one column, and no heading breaks it', () => {
		const columns = match('Email|E-mail|email address|Name|Name|||<b>|' + 'x'.repeat(10_000));
		const used = columns.filter((c) => c !== null);
		expect(new Set(used).size).to.equal(used.length);
		for (const field of used) expect(listFieldNames).to.include(field);
	});

	it('says what is missing in words', () => {
		expect(whyNotColumns(['studentNumber', 'name'])).to.deep.equal([]);
		expect(whyNotColumns(['email', 'email'])).to.deep.equal([
			'Two columns are “Email address”. One of them has to be another.',
			'No column says which student: by district number or by name.',
			'No column says who the contact is: a full name, or given and family name.'
		]);
	});

	it('reads yes and no, languages and days as they are written', () => {
		expect(['Yes', 'y', 'TRUE', '1', 'sí', 'X'].map(readYes)).to.deep.equal(Array(6).fill(true));
		expect(['No', 'n', 'false', '0', 'não'].map(readYes)).to.deep.equal(Array(5).fill(false));
		expect(['maybe', '', '2'].map(readYes)).to.deep.equal([undefined, undefined, undefined]);
		// ISO 639-1 by way of Unicode CLDR's English names.
		expect(['Portuguese', 'vietnamese', 'ar', 'zh-Hant'].map(readLanguage)).to.deep.equal([
			'pt',
			'vi',
			'ar',
			'zh-Hant'
		]);
		expect(readLanguage('Brackish water')).to.equal(undefined);
		expect(
			['2026-09-01', '9/1/2026', 'Sep 1, 2026', '1 September 2026', '2026-09-01T08:00:00'].map(
				(d) => readDay(d, 'month-first')
			)
		).to.deep.equal(Array(5).fill('2026-09-01'));
		expect(readDay('1/9/2026', 'day-first')).to.equal('2026-09-01');
		expect(readDay('13/9/2026', 'month-first')).to.equal(undefined);
		expect(readDay('2026-02-30', 'month-first')).to.equal(undefined);
		expect(orderOf(['3/4/2026', '25/4/2026'])).to.equal('day-first');
		expect(orderOf(['3/4/2026'])).to.equal('month-first');
	});
});
