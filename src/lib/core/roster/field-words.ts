/** Fields as they are called where they are shown; the others say themselves. */
const words: Readonly<Record<string, string>> = {
	givenName: 'given name',
	familyName: 'family name',
	gradeLevel: 'grade',
	hasInbox: 'inbox',
	identifier: 'district number',
	startsOn: 'begins',
	endsOn: 'ends before',
	sms: 'number',
	madeOne: 'two on file',
	added: 'added by hand',
	textsSince: 'texts since',
	wants: 'wants',
	quiet: 'own quiet hours',
	texts: 'texts to',
	digest: 'one letter a day, at'
};

/** A field of a roster's thing, in words. */
export const fieldWord = (field: string): string => words[field] ?? field;
