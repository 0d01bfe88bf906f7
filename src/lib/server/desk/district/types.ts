import type { FixedWord } from '../../../core/copy/fixed-words';
import type { Step } from '../../gateway/tried';

/** A step of the first start, and how far it is. */
export interface FirstStep {
	readonly name: string;
	readonly path: string;
	readonly done: boolean;
	/** What it is for, or what was done. */
	readonly said: string;
}

/** The mail server, as its form shows it: the password stays where it is. */
export interface MailServer {
	readonly host: string;
	readonly port: number;
	/** When the connection is encrypted: from its first moment, after the greeting, or only where the server offers it. */
	readonly encryption: 'at-once' | 'after-greeting' | 'if-offered';
	readonly user: string;
	readonly hasPassword: boolean;
	readonly mailFrom: string;
	readonly returnDomain: string;
	/** What the machine's own settings say, and nobody changes here. */
	readonly byMachine: { readonly server: boolean; readonly returnDomain: boolean };
	/** The port of this machine to which mail for the return domain is led. */
	readonly returnPort: number;
}

/** The text provider, as its form shows it. */
export interface TextProvider {
	readonly host: string;
	readonly port: number;
	readonly encrypted: boolean;
	readonly systemId: string;
	readonly hasPassword: boolean;
	readonly textFrom: string;
	readonly byMachine: boolean;
}

/** The identity provider, as its form shows it: the secret stays where it is. */
export interface IdentityProviderView {
	readonly name: string;
	readonly issuer: string;
	readonly clientId: string;
	readonly hasSecret: boolean;
	readonly claim: string;
	/** What of ours the claim is compared with. */
	readonly fits: 'mail' | 'user-name' | 'number';
	/** An address is taken that it does not say it has confirmed. */
	readonly unconfirmed: boolean;
	readonly teachers: 'invited' | 'roster';
	readonly passwords: 'everybody' | 'keepers';
	/** There is none; nobody has come back from it yet; it stands on the sign-in page. */
	readonly state: 'none' | 'to-prove' | 'open';
	/** How many people have signed in by it. */
	readonly known: number;
}

/** Whom the identity provider says that somebody is who tried it. */
export interface Proven {
	readonly claims: readonly { readonly name: string; readonly value: string }[];
	/** Who they would be here; null where nobody. */
	readonly who: string | null;
	/** It stands on the sign-in page. */
	readonly open: boolean;
	/** Why nobody was found. */
	readonly why: string;
}

/** What came of trying a provider, and whether it is kept now. */
export interface TriedOut {
	readonly steps: readonly Step[];
	readonly works: boolean;
	readonly kept: boolean;
}

/** The chapters of the settings that are forms. */
export type ChapterCode =
	| 'district'
	| 'languages'
	| 'quiet'
	| 'letterhead'
	| 'sending'
	| 'answers'
	| 'boards'
	| 'files'
	| 'keeping'
	| 'factor';

/** A field of a chapter. */
export interface Field {
	readonly name: string;
	readonly label: string;
	readonly kind:
		'line' | 'number' | 'clock' | 'choice' | 'many' | 'words' | 'lines' | 'colour' | 'picture';
	readonly unit?: string;
	readonly help?: string;
	readonly choices?: readonly { readonly value: string; readonly text: string }[];
}

/** What was, or would be, changed of a field, in words. */
export interface FieldChange {
	readonly label: string;
	readonly before: string;
	readonly after: string;
}

/** A change that was made. */
export interface ChapterChange {
	readonly id: number;
	readonly at: number;
	/** Who made it; null where it was made by itself, or they were erased. */
	readonly by: string | null;
	readonly changes: readonly FieldChange[];
}

/** A chapter as its page shows it. */
export interface ChapterView {
	readonly code: string;
	readonly name: string;
	readonly says: string;
	/** "Coordinators change it." */
	readonly who: string;
	readonly fields: readonly Field[];
	readonly values: Readonly<Record<string, string | readonly string[]>>;
	/** The last change that was seen: one that comes between is told. */
	readonly seen: number;
	readonly history: readonly ChapterChange[];
}

/** What a change would do. */
export interface ChapterEffect {
	readonly changes: readonly FieldChange[];
	/** What it does to what is scheduled and to people, in sentences; empty where it does nothing to them. */
	readonly effects: readonly string[];
}

/** A school, and what it has of its own about time, in phrases. */
export interface SchoolLine {
	readonly id: number;
	readonly name: string;
	readonly own: readonly string[];
}

/** A language that there are fixed words of ours in. */
export interface CheckedWords {
	readonly tag: string;
	readonly name: string;
	/** Adults who read it. */
	readonly people: number;
	/** How many phrases there are. */
	readonly words: number;
	/** Who has said that a speaker checked them, and when; `since` where they have changed after that. Null where nobody has. */
	readonly checked: { readonly by: string; readonly at: number; readonly since: boolean } | null;
}

/** All fixed words of one language. */
export interface LanguageWords extends CheckedWords {
	readonly places: readonly { readonly place: string; readonly words: readonly FixedWord[] }[];
}
