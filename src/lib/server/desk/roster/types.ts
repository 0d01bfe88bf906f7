import type { BookFile } from '../../../core/format/oneroster/book';
import type { ListColumns } from '../../../core/roster/list/fields';
import type { Counts, Share, What } from '../../../core/roster/counts';
import type { TableLine } from '../../reading/roster/oneroster';
import type { FileState } from '../../db/models/rosters';

/** Who comes into something that is planned or kept, and who leaves it. */
export interface EffectSeen {
	readonly kind: 'dispatch' | 'kept';
	readonly id: number;
	readonly name: string;
	/** When it leaves, ms; null of what is kept. */
	readonly leavesAt: number | null;
	readonly inCount: number;
	readonly outCount: number;
	/** The first of them, by name. */
	readonly ins: readonly string[];
	readonly outs: readonly string[];
}

/** What looking at a file came to. */
export interface Looked {
	readonly version: string;
	readonly systemName: string | null;
	readonly tables: readonly TableLine[];
	readonly remarks: readonly string[];
	readonly counts: Counts;
	/** Lines that stay out, and those of which one cell does. */
	readonly wrong: number;
	readonly partly: number;
	/** What is wrong, by which it is known again in the next file; null where it is too much to be kept. */
	readonly faults: readonly string[] | null;
	/** New contacts of whom nobody has said whether they have custody, by relation. */
	readonly unsaid: readonly { readonly relation: string; readonly contacts: number }[];
	/** People who may be somebody known, and have not been told apart. */
	readonly questions: number;
	/** Fields mended here that the file has changed too. */
	readonly disputes: number;
	/** Of those the ones who are contacts of the same student under the same name. */
	readonly sameTies: number;
	/** Households worked out anew. */
	readonly homes: number;
	readonly shares: readonly Share[];
	/** The share over which it has to be typed. */
	readonly mostShare: number;
	readonly effects: readonly EffectSeen[];
	/** What the counts rest on: the state of people, and of the files before. */
	readonly restsOn: string;
}

/** One change as it is listed. */
export interface ChangeLine {
	readonly n: number;
	readonly what: What;
	/** Its key in the source. */
	readonly key: string;
	/** Table and line it stands in; null where it is no longer in any. */
	readonly file: BookFile | null;
	readonly line: number | null;
	readonly title: string;
	readonly note: string;
	/** Old beside new, field by field. */
	readonly was: readonly string[];
	readonly will: readonly string[];
	/** What was put here by hand and is now overwritten. */
	readonly disputes: readonly string[];
	readonly follows: string;
	/** The person's page, where they are known. */
	readonly personId: number | null;
}

/** One line that is wrong. */
export interface WrongLine {
	readonly n: number;
	readonly file: BookFile;
	readonly line: number;
	readonly text: string;
	/** Whether the rest of it comes in. */
	readonly rest: boolean;
	readonly heading: readonly string[];
	readonly cells: readonly string[];
}

/** Somebody in the file who may be somebody known here. */
export interface Question {
	readonly key: string;
	readonly inFile: { readonly name: string; readonly note: string; readonly line: number | null };
	readonly here: { readonly personId: number; readonly name: string; readonly note: string };
	/** What both have. */
	readonly shared: string;
	/** By what they look the same: an address or number, or a student whose contact both are. */
	readonly by: 'address' | 'tie';
}

/** A roster file in a list. */
export interface FileLine {
	readonly id: number;
	readonly name: string;
	readonly source: string;
	readonly state: FileState;
	readonly cameAt: number;
	readonly by: string | null;
	readonly why: string | null;
	readonly takenAt: number | null;
	readonly takenBy: string | null;
	readonly backAt: number | null;
	/** New, changed, gone and wrong. */
	readonly numbers: readonly [number, number, number, number] | null;
	/** Whether it is the newest of its source that came in, and so can be taken back. */
	readonly canGoBack: boolean;
}

/** The folder that is watched for rosters, and what came of what lay in it. */
export interface WatchedView {
	/** Null where none is watched. */
	readonly folder: string | null;
	/** Why it cannot be looked into; empty where it can. */
	readonly trouble: string;
	readonly lies: readonly {
		readonly name: string;
		readonly bytes: number;
		/** Instant, ms. */
		readonly changedAt: number;
	}[];
	/** The source that it belongs to; null while none was ever brought. */
	readonly source: string | null;
	readonly mostPercent: number;
	readonly came: readonly FileLine[];
}

/** Where rosters come from. */
export interface SourceLine {
	readonly id: number;
	readonly name: string;
	readonly people: number;
}

/** One roster file with what was seen in it. */
export interface FileView extends FileLine {
	readonly looked: Looked | null;
	/** Of a contact list what its columns are, as proposed or said. */
	readonly columns: ColumnsView | null;
	/** What somebody has said of custody, by relation. */
	readonly custody: Readonly<Record<string, 'yes' | 'no'>>;
	/** Nothing of this source has come in yet. */
	readonly first: boolean;
}

/** What the columns of a contact list are, with some lines as they stand. */
export interface ColumnsView {
	readonly heading: readonly string[];
	readonly examples: readonly (readonly string[])[];
	readonly columns: ListColumns;
	/** Whoever is not in it is no contact any more. */
	readonly complete: boolean;
	readonly said: boolean;
	/** It was said of an earlier file with the same heading. */
	readonly remembered: boolean;
}
