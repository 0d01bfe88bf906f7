import { Said } from './said';

/** A time of day as it was said; with `half` null it does not say which half of the day. */
export interface SaidTime {
	readonly hour: number;
	readonly minute: number;
	/** Null where neither am nor pm was said and the figure does not tell either. */
	readonly half: 'am' | 'pm' | 'told' | null;
	/** Whether minutes were said: "7:20" is read by the clock as it stands, "at 7" is not. */
	readonly minutesSaid: boolean;
	/** Said as "midnight": of a day it may be its beginning or its end. */
	readonly midnight?: boolean;
}

/** "2:15pm", "2 pm", "14:15", "noon", "midnight", "at 7", "7 o'clock". Null where none stands next. */
export function takeTime(said: Said): SaidTime | null {
	return said.try(() => {
		const at = said.take('at') || said.take('@');
		if (said.takeAny('noon', 'midday'))
			return { hour: 12, minute: 0, half: 'told', minutesSaid: true };
		if (said.take('midnight'))
			return { hour: 0, minute: 0, half: 'told', minutesSaid: true, midnight: true };
		const start = said.at;
		const digits = said.next;
		const hour = said.figures(2);
		if (hour === null) return null;
		let minute = 0;
		let minutesSaid = false;
		const parted = said.takeAny(':', '.');
		if (parted !== null) {
			if (said.next.length !== 2) return null;
			const m = said.figures(2);
			if (m === null || m > 59) return null;
			minute = m;
			minutesSaid = true;
		}
		const half = said.takeAny('am', 'pm', 'a', 'p');
		// "7.30" may be a date; only with am or pm it is a time.
		if (parted === '.' && half === null) return null;
		if (half !== null) {
			if (hour < 1 || hour > 12) return null;
			return {
				hour: (hour % 12) + (half.startsWith('p') ? 12 : 0),
				minute,
				half: half.startsWith('p') ? 'pm' : 'am',
				minutesSaid: true
			};
		}
		const oclock = said.takeAny("o ' clock", 'o ’ clock', 'oclock', 'h');
		if (hour > 23) return null;
		// "07:20", "14:15" and "0:30" tell themselves.
		const told =
			hour === 0 || hour > 12 || (minutesSaid && digits.length === 2 && digits[0] === '0');
		// A bare figure is an hour only where something says so, or where it stands alone.
		if (!minutesSaid && !at && oclock === null && !(start === 0 || said.done)) return null;
		return { hour, minute, half: told ? 'told' : null, minutesSaid };
	});
}

/** A time of day by itself, "14:15", from what was typed: "2:15 pm", "14:15", "noon"; null for what is none. A bare figure is none. */
export function readClock(text: string): string | null {
	const said = new Said(text.trim());
	const time = takeTime(said);
	if (!time || !said.done || !(time.minutesSaid || time.half !== null)) return null;
	return `${String(time.hour).padStart(2, '0')}:${String(time.minute).padStart(2, '0')}`;
}
