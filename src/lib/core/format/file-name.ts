/**
 * A file name that is one: no path, nothing hidden, nothing invisible, nothing that turns the direction
 * of its letters ("fdp.exe" for "exe.pdf"), not too long. `otherwise` stands where nothing is left.
 */
export const plainFileName = (name: string, otherwise = 'file'): string =>
	(name.split(/[/\\]/).pop() ?? '')
		.normalize('NFC')
		.replace(/\p{Cf}/gu, '')
		.replace(/[\p{Cc}\p{Zl}\p{Zp}"<>|:*?]/gu, ' ')
		.trim()
		.replace(/^\.+/, '')
		.slice(-120) || otherwise;
