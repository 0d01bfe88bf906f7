import { ways, type Way } from '../src/lib/core/roster/way';
import type { Timing } from '../src/lib/core/time/timing';

/** A dispatch that somebody of the demo has scheduled, or begun. */
export interface Planned {
	readonly by: 'maren' | 'ines' | 'chidi' | 'ruth';
	/** Their sections, by a pattern of SQL over their names. */
	readonly sections: string;
	readonly schools: readonly number[];
	readonly ways: readonly Way[];
	readonly subject: string;
	readonly body: string;
	readonly timing: Partial<Timing>;
	readonly draft?: boolean;
}

const letter = ['email', 'inbox'] as const;

/** What four people have planned who do not ask each other. `day` gives the nth day from the Monday (ISO date); `walk` is the event that a reminder goes by. */
export function plannedAhead(day: (n: number) => string, walk: number): readonly Planned[] {
	const at = (n: number, time: string): Partial<Timing> => ({
		when: { kind: 'at', at: `${day(n)}T${time}` }
	});
	return [
		{
			by: 'maren',
			sections: 'Homeroom 5-%',
			schools: [1],
			ways,
			subject: 'Ferry timetable changes on Friday',
			body: 'From Friday the 3:40 pm boat leaves at 3:55 pm. The late boat stays as it is.',
			timing: at(4, '15:30')
		},
		{
			by: 'ines',
			sections: '% 8-A',
			schools: [2],
			ways: letter,
			subject: 'Eye screening: results',
			body: 'The nurse has written to the families of those who should see a doctor. All others are well.',
			timing: at(4, '14:15')
		},
		{
			by: 'maren',
			sections: 'Homeroom %',
			schools: [1],
			ways: letter,
			subject: 'Week at Heron Landing',
			body: 'The Lantern Walk, the book fair and the new boat times: all in one letter.',
			timing: at(4, '16:30')
		},
		{
			by: 'maren',
			sections: 'Homeroom 5-%',
			schools: [1],
			ways: letter,
			subject: 'Visit at Brackwater Middle',
			body: 'Grade 5 visits Brackwater Middle on Tuesday. We take the 8:20 boat together.',
			timing: at(4, '10:00')
		},
		{
			by: 'maren',
			sections: 'Homeroom 5-%',
			schools: [1],
			ways: letter,
			subject: 'Swim slips due',
			body: 'Please send the swim slip by Monday. Without it a child reads in the library.',
			timing: at(4, '12:15')
		},
		{
			by: 'chidi',
			sections: 'Boatbuilding%',
			schools: [3],
			ways: letter,
			subject: 'Launch pictures',
			body: 'The pictures of the first launch hang in the boat shop. Take yours along.',
			timing: at(5, '13:00')
		},
		{
			by: 'ruth',
			sections: 'English 11-A',
			schools: [3],
			ways,
			subject: 'Essay evening',
			body: 'Bring your draft on Thursday evening; six of us will read with you.',
			timing: at(3, '18:30')
		},
		{
			by: 'maren',
			sections: 'Mathematics 7-A',
			schools: [2],
			ways: letter,
			subject: 'Late boat next week',
			body: 'The late boat does not run on Tuesday and Wednesday of next week.',
			timing: at(7, '18:30')
		},
		{
			by: 'maren',
			sections: 'Homeroom K-%',
			schools: [1],
			ways: letter,
			subject: 'Tide tables',
			body: 'High water this week, and which boats board from the upper ramp.',
			timing: {
				when: {
					kind: 'round',
					first: `${day(9)}T07:15`,
					rule: 'FREQ=WEEKLY;BYDAY=TU;UNTIL=20270430',
					offDays: 'skip'
				}
			}
		},
		{
			by: 'maren',
			sections: 'Homeroom 1-%',
			schools: [1],
			ways,
			subject: 'Lantern Walk: jar, candle, grown-up',
			body: 'We meet at the landing at 6:45 pm. Bring a jar with a candle and a grown-up.',
			timing: {
				when: {
					kind: 'event',
					eventId: walk,
					offsets: [
						{ amount: 1, unit: 'weeks', side: 'before', of: 'start' },
						{ amount: 1, unit: 'days', side: 'before', of: 'start' },
						{ amount: 3, unit: 'hours', side: 'before', of: 'start' }
					]
				}
			}
		},
		{
			by: 'maren',
			sections: 'Homeroom 3-%',
			schools: [1],
			ways: letter,
			subject: 'Library volunteers',
			body: 'Three families are wanted for the book fair on Saturday.',
			timing: at(5, '10:00'),
			draft: true
		}
	];
}
