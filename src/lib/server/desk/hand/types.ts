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

/** A person as they stand beside another who may be the same. */
export interface BesideEachOther {
	readonly id: number;
	readonly kind: 'student' | 'adult';
	readonly name: string;
	readonly language: string;
	readonly identifier: string;
	readonly grade: string;
	readonly addresses: readonly string[];
	/** "mother of Ana Amaro"; of a student "mother: Delfina Amaro". */
	readonly ties: readonly string[];
	/** Whom they live with. */
	readonly homes: readonly string[];
	/** Where rosters and lists come from that know them. */
	readonly sources: readonly string[];
	/** How many dispatches they have had. */
	readonly dispatches: number;
}
