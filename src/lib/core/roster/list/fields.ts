/** What a column of a contact list can hold, and what it is called on the screen. */
export const listFields = {
	studentNumber: 'Student: district number',
	studentName: 'Student: full name',
	studentGivenName: 'Student: given name',
	studentFamilyName: 'Student: family name',
	studentGrade: 'Student: grade',
	studentSchool: 'Student: school',
	number: 'Contact: number in this list',
	name: 'Contact: full name',
	givenName: 'Contact: given name',
	familyName: 'Contact: family name',
	relation: 'Relation to the student',
	guardian: 'Guardian, yes or no',
	custody: 'Custody, yes or no',
	correspondence: 'Gets correspondence, yes or no',
	emergency: 'Emergency contact, yes or no',
	livesWith: 'Lives with the student, yes or no',
	language: 'Language',
	email: 'Email address',
	sms: 'Number for texts',
	phone: 'Another number',
	texts: 'Opted in to text, yes or no',
	textsSince: 'Opted in on'
} as const;
export type ListField = keyof typeof listFields;
export const listFieldNames = Object.keys(listFields) as ListField[];

/** What each column of a list is; null for one that is passed over. */
export type ListColumns = readonly (ListField | null)[];

/** Why columns do not make a list that can be read; empty where they do. */
export function whyNotColumns(columns: ListColumns): string[] {
	const has = (field: ListField) => columns.includes(field);
	const twice = listFieldNames.filter((f) => columns.filter((c) => c === f).length > 1);
	return [
		...twice.map((f) => `Two columns are “${listFields[f]}”. One of them has to be another.`),
		...(has('studentNumber') || has('studentName') || has('studentFamilyName')
			? []
			: ['No column says which student: by district number or by name.']),
		...(has('name') || has('familyName') || has('givenName')
			? []
			: ['No column says who the contact is: a full name, or given and family name.'])
	];
}
