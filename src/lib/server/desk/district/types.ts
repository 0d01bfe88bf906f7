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
	/** When the connection is encrypted: from its first moment, after the greeting, or never. */
	readonly encryption: 'at-once' | 'after-greeting' | 'never';
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

/** What came of trying a provider, and whether it is kept now. */
export interface TriedOut {
	readonly steps: readonly Step[];
	readonly works: boolean;
	readonly kept: boolean;
}
