/**
 * One line of a contact list: an adult in relation to one student, with what a roster standard has no
 * place for. A field that is not there is one that the list does not speak of; an empty cell says nothing.
 */
export interface ListLine {
	/** Tells it from the other lines of the list: the student, and who. */
	readonly id: string;
	/** Tells the student from others, as the list names them: by number, else by name with grade and school. */
	readonly student: string;
	readonly named: NamedStudent;
	/** The list's own number for the adult, or null. */
	readonly number: string | null;
	readonly givenName: string;
	readonly familyName: string;
	readonly relation: string;
	readonly guardian?: boolean;
	readonly custody?: boolean;
	readonly correspondence?: boolean;
	readonly emergency?: boolean;
	/** Whether they live with the student. */
	readonly livesWith?: boolean;
	/** BCP 47. */
	readonly language?: string;
	readonly email?: string;
	/** In E.164. */
	readonly sms?: string;
	readonly phone?: string;
	/** Whether the number may be sent texts, and since which day (ISO date, or empty where the list does not say). */
	readonly texts?: 'in' | 'out';
	readonly textsSince?: string;
}

/** How a list names a student. */
export interface NamedStudent {
	readonly number: string;
	readonly name: string;
	readonly grade: string;
	readonly school: string;
}
