import { rosterFiles, versions, type RosterFile, type Version } from './files';
import { tidy } from './cells';

/** How a file of a zip is meant: all there is, or what has changed since the last. */
export type Mode = 'bulk' | 'delta';

/** What manifest.csv says of the files beside it (1.1 section 3.1, 1.2 section 4.1). */
export interface Manifest {
	readonly version: Version;
	/** Files that are there; what is said to be absent is not among them. */
	readonly modes: ReadonlyMap<RosterFile, Mode>;
	readonly systemName: string | null;
}

export type ReadManifest =
	{ readonly ok: true; readonly manifest: Manifest } | { readonly ok: false; readonly why: string };

/** Reads manifest.csv: a heading, then a property and its value in each line. */
export function readManifest(rows: readonly (readonly string[])[]): ReadManifest {
	const no = (why: string): ReadManifest => ({ ok: false, why: `manifest.csv: ${why}` });
	const [first, ...rest] = rows;
	const heading = (first ?? []).map((cell) => tidy(cell).toLowerCase());
	const name = heading.indexOf('propertyname');
	const value = heading.indexOf('value');
	if (name < 0 || value < 0) return no('the heading has to be propertyName,value.');
	const said = new Map(
		rest.map((cells) => [tidy(cells[name] ?? '').toLowerCase(), tidy(cells[value] ?? '')])
	);
	const wanted = said.get('oneroster.version') ?? '';
	const version = versions.find((v) => wanted === v || wanted.startsWith(`${v}.`));
	if (!version)
		return no(
			wanted === ''
				? 'oneroster.version is missing.'
				: `oneroster.version is “${wanted}”; versions 1.1 and 1.2 are read.`
		);
	const modes = new Map<RosterFile, Mode>();
	for (const [property, mode] of said) {
		if (!property.startsWith('file.')) continue;
		const file = property.slice('file.'.length);
		if (!['bulk', 'delta', 'absent'].includes(mode.toLowerCase()))
			return no(`${property} is “${mode}”; it can be bulk, delta or absent.`);
		const found = rosterFiles.find((f) => f.toLowerCase() === file);
		if (found && mode.toLowerCase() !== 'absent') modes.set(found, mode.toLowerCase() as Mode);
	}
	return {
		ok: true,
		manifest: { version, modes, systemName: said.get('source.systemname') || null }
	};
}
