/** Somebody on file who may be the one that is about to be added. */
export interface Alike {
	readonly personId: number;
	readonly name: string;
	/** "Grade 7, Heron Landing", "mother of Ana". */
	readonly note: string;
}

/** What the forms of people offer to choose from. */
export interface FormLists {
	readonly languages: readonly { readonly tag: string; readonly name: string }[];
	readonly schools: readonly { readonly id: number; readonly name: string }[];
	/** Whether somebody may be put in for the whole district. */
	readonly wholeDistrict: boolean;
	readonly roles: readonly string[];
	readonly relations: readonly string[];
}
