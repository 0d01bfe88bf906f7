import type { ClockStyle } from './clock-style';

const formats = new Map<string, Intl.DateTimeFormat>();

/** An instant (ms) as day and time in a few signs, in a language and by a clock: "Thu, Feb 4, 4:15 PM". */
export function momentIn(
	{
		language,
		zone,
		style
	}: {
		readonly language: string;
		/** IANA name. */
		readonly zone: string;
		/** How English writes a time of day; other languages write it their own way. */
		readonly style?: ClockStyle;
	},
	at: number
): string {
	const key = `${language} ${zone} ${style ?? ''}`;
	let format = formats.get(key);
	if (!format) {
		format = new Intl.DateTimeFormat(language === 'en' ? 'en-US' : language, {
			timeZone: zone,
			...{ weekday: 'short', day: 'numeric', month: 'short', hour: 'numeric', minute: '2-digit' },
			...(language === 'en' && style === '24' ? { hourCycle: 'h23' } : {})
		});
		formats.set(key, format);
	}
	return format.format(at);
}
