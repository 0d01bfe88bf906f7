import type { CheckedWords } from '$lib/server/desk/district/types';
import { nearTime } from '../parts/clock';

/** Whether a speaker has checked the fixed words of a language, in words. */
export function checkedSaid(
	{ tag, checked }: CheckedWords,
	{ now, zone }: { readonly now: number; readonly zone: string }
): string {
	if (!checked) return tag === 'en' ? 'as they were written' : 'not yet checked by a speaker';
	const said = `checked by a speaker, said ${checked.by} ${nearTime(checked.at, now, zone)}`;
	return checked.since ? `${said}; some have changed since` : said;
}
