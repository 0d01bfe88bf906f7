import type { MeantKind, StudentSet } from '../src/lib/core/audience/audience';
import { ways, type Way } from "../src/lib/core/roster/way";

/** A dispatch of the demo's past, seen from the week in which the demo begins. */
export interface PastDispatch {
	readonly weeksAgo: number;
	/** 1 is Monday. */
	readonly weekday: 1 | 2 | 3 | 4 | 5;
	/** Local time at which it was sent; it leaves five minutes later. */
	readonly time: string;
	readonly by: 'maren' | 'ines' | 'chidi' | 'ruth';
	readonly sections: readonly string[];
	readonly to: readonly MeantKind['kind'][];
	readonly ways: readonly Way[];
	readonly subject: string;
	readonly body: string;
	readonly calledBack?: boolean;
	/** Asks who comes to which of some times, so many days on, each with its places. */
	readonly asks?: { readonly daysOn: number; readonly times: readonly string[]; readonly places: number };
	/** Everybody of the district or of a school, in the place of sections. */
	readonly wide?: StudentSet;
	/** Stands on the boards of its sections; pinned there, or until so many days after it left. */
	readonly stands?: { readonly pinned?: boolean; readonly days?: number };
}

const homerooms = (...grades: string[]) => grades.flatMap((g) => ['A', 'B', 'C'].map((l) => `Homeroom ${g}-${l}`));
const middle6 = ['Mathematics 6-A', 'Island History 6-A', 'Weather Watch-A'];
const middle7 = ['Mathematics 7-A', 'Island History 7-A', 'Drama 7-A'];
const middle8 = ['Mathematics 8-A', 'Island History 8-A', 'Robotics 8-A'];
const boats = ['Boatbuilding 1-A', 'Boatbuilding 1-B', 'Boatbuilding 2-A'];
const upper = ['English 11-A', 'Geometry-A', 'Biology-A', 'Marine Ecology-A', 'Economics-A', 'Portuguese 1-A', 'Photography-A', 'Diesel and Electrics-A'];
const guardians = ['guardians'] as const;
const both = ['guardians', 'students'] as const;
const letter = ['email', 'inbox'] as const;

export const past: readonly PastDispatch[] = [
	{ weeksAgo: 6, weekday: 1, time: '08:00', by: 'maren', wide: { kind: 'terms', ids: [2] }, sections: [], to: guardians, ways: [], stands: { pinned: true }, subject: 'Storm days: how you hear of them', body: 'When boats do not run you hear by text before 6:15 am, in your language. If you have no phone on file, ask your school office for the way to your inbox. Nobody is marked late on a day with fog at the breakwater.' },
	{ weeksAgo: 2, weekday: 3, time: '09:45', by: 'ines', wide: { kind: 'schools', ids: [2] }, sections: [], to: guardians, ways: [], stands: {}, subject: 'Doors open at 7:40', body: 'From this week the doors of Brackwater Middle open at 7:40 am. Breakfast is served until 7:55 am.' },
	{ weeksAgo: 6, weekday: 1, time: '09:10', by: 'maren', sections: homerooms('K', '1'), to: guardians, ways: letter, stands: {}, subject: 'Winter coats and boots', body: 'The landing is icy until March. Please send a coat, boots and dry socks every day. We keep a rack of spare coats at the office.' },
	{ weeksAgo: 6, weekday: 2, time: '15:20', by: 'chidi', sections: boats, to: both, ways: letter, subject: 'Boat shop opens late on Thursday', body: 'The dust collector is being mended on Thursday morning. Period 1 meets in the drawing room. Bring pencils, not gloves.' },
	{ weeksAgo: 6, weekday: 4, time: '07:02', by: 'maren', sections: [...middle6, ...middle7], to: guardians, ways, subject: 'South Shore boat 25 minutes late', body: 'Fog at the breakwater. The 7:20 boat leaves at 7:45. Nobody is marked late.' },
	{ weeksAgo: 6, weekday: 5, time: '13:05', by: 'ines', sections: middle8, to: guardians, ways: letter, subject: 'Eye screening in two weeks', body: 'The nurse screens eyes on the second Friday from now. If you do not want it, write to the office before then.' },
	{ weeksAgo: 5, weekday: 1, time: '10:00', by: 'maren', sections: homerooms('2', '3'), to: guardians, ways: letter, stands: { days: 3 }, subject: 'Reading evening on Wednesday', body: 'Doors open at 6:15 pm, stories begin at 6:30 pm. Bring a blanket. Soup is on the stove for families who come straight from the boat.' },
	{ weeksAgo: 5, weekday: 2, time: '15:40', by: 'ines', sections: middle6, to: guardians, ways: letter, stands: {}, subject: 'Lockers: what stays and what goes', body: 'Lockers are emptied on Friday. Please take home sports clothes and library books.' },
	{ weeksAgo: 5, weekday: 3, time: '12:10', by: 'ruth', sections: upper, to: both, ways: letter, stands: {}, subject: 'Course choices are open', body: 'Course choices for spring are open until next Tuesday at noon. A counsellor sits in the library each lunch break.' },
	{ weeksAgo: 5, weekday: 5, time: '14:30', by: 'maren', sections: homerooms('K', '1', '2', '3', '4', '5'), to: guardians, ways, subject: 'No school on Monday', body: 'Monday is a closure day at Heron Landing: the heating is being replaced. The ferries run as on a holiday. School is open again on Tuesday.' },
	{ weeksAgo: 4, weekday: 2, time: '08:20', by: 'maren', sections: homerooms('4', '5'), to: guardians, ways: letter, subject: 'Tide pool walk: rubber boots', body: 'Grades 4 and 5 walk to the tide pools on Thursday. Send rubber boots and a change of socks. We are back for the 2:50 pm boat.' },
	{ weeksAgo: 4, weekday: 3, time: '16:15', by: 'chidi', sections: ['Boatbuilding 1-A', 'Boatbuilding 1-B'], to: guardians, ways: letter, subject: 'First hulls turn over on Friday', body: 'Families are welcome in the boat shop on Friday at 2:15 pm, when the first hulls are turned. Closed shoes, please.' },
	{ weeksAgo: 4, weekday: 4, time: '11:00', by: 'ines', sections: [...middle7, ...middle8], to: guardians, ways: letter, stands: {}, subject: 'Spring play: parts are read', body: 'Reading for parts is on Monday and Tuesday after school, in the hall. The late boat waits.' },
	{ weeksAgo: 4, weekday: 5, time: '07:05', by: 'maren', sections: upper, to: both, ways, subject: 'High school opens at 9:30 today', body: 'Wind at the Lightkeeper pier. The first boat leaves at 8:50. First period begins at 9:30. Breakfast is kept warm.' },
	{ weeksAgo: 3, weekday: 1, time: '09:30', by: 'maren', sections: homerooms('K'), to: guardians, ways: letter, stands: { pinned: true }, subject: 'Next year’s kindergarten: tell your neighbours', body: 'Sign-up for next year’s kindergarten opens on Monday. If a family near you has a child who turns five before September, please tell them.' },
	{ weeksAgo: 3, weekday: 2, time: '15:10', by: 'ines', sections: middle8, to: guardians, ways, subject: 'Eye screening tomorrow', body: 'Eyes are screened tomorrow morning. Glasses, if any, should come along.' },
	{ weeksAgo: 3, weekday: 3, time: '17:30', by: 'chidi', sections: boats, to: both, ways: letter, subject: 'Safety sheets by Friday', body: 'The safety sheet has to be signed by a guardian and back by Friday. Without it there is no work at the saw.' },
	{ weeksAgo: 3, weekday: 5, time: '14:00', by: 'maren', sections: homerooms('1', '2', '3'), to: guardians, ways: letter, stands: {}, subject: 'Lantern jars wanted', body: 'We collect glass jars for the Lantern Walk. Washed, without lids, any size. A box stands at each landing.' },
	{ weeksAgo: 2, weekday: 1, time: '08:40', by: 'ruth', sections: upper, to: guardians, ways: letter, subject: 'Evening for families of seniors', body: 'Thursday at 7 pm in the library: aid forms, apprenticeships on the mainland, and the boat timetable for interviews.' },
	{ weeksAgo: 2, weekday: 2, time: '12:25', by: 'maren', sections: [...middle6, ...middle7, ...middle8], to: guardians, ways, stands: {}, subject: 'Early boats on Friday', body: 'Friday is an early release at Brackwater Middle. Boats leave at 12:20 pm. Lunch is packed for everyone who wants it.' },
	{ weeksAgo: 2, weekday: 4, time: '16:00', by: 'maren', sections: homerooms('4', '5'), to: guardians, ways: letter, stands: { days: 9 }, subject: 'Kelp Garden needs hands', body: 'Saturday from 9 to 11 am we lay new lines. Wear what may get wet. Hot chocolate for everyone who stays to the end.' },
	{ weeksAgo: 2, weekday: 5, time: '10:15', by: 'chidi', sections: ['Boatbuilding 2-A'], to: both, ways: letter, subject: 'Oak is here', body: 'The oak for the second boat has come. We carry it up from the pier on Monday, period 3. Gloves, please.' },
	{ weeksAgo: 1, weekday: 1, time: '07:15', by: 'maren', sections: [...homerooms('2'), ...middle7], to: guardians, ways, subject: 'North Run is on time again', body: 'The North Run keeps its timetable from today. Thank you for your patience last week.' },
	{ weeksAgo: 1, weekday: 2, time: '13:40', by: 'ines', sections: middle6, to: guardians, ways: letter, stands: {}, subject: 'Library week', body: 'Each child may take five books home this week. Late books are forgiven until Friday.' },
	{ weeksAgo: 1, weekday: 3, time: '15:30', by: 'maren', sections: homerooms('K', '1', '2'), to: guardians, ways: letter, stands: { days: 20 }, subject: 'Lantern Walk on the 18th', body: 'We meet at the landing at 6:45 pm. Bring a jar with a candle and a grown-up. If it storms, we walk the week after.' },
	{ weeksAgo: 1, weekday: 4, time: '11:45', by: 'ruth', sections: upper, to: both, ways: letter, stands: {}, subject: 'Testing week: phones stay in lockers', body: 'From Monday phones stay in lockers during periods 1 and 2. The office takes messages: call before 10 am.' },
	{ weeksAgo: 1, weekday: 4, time: '15:15', by: 'maren', sections: homerooms('5'), to: guardians, ways, asks: { daysOn: 11, times: ['17:00', '17:15', '17:30', '17:45', '18:00', '18:15'], places: 8 }, subject: 'Parents’ evening: choose your time', body: 'On Monday the 15th we talk with every family of grade 5 about the move to Brackwater Middle. Choose a time that suits your boat; both parents are welcome.' },
	{ weeksAgo: 1, weekday: 5, time: '14:20', by: 'chidi', sections: boats, to: guardians, ways: letter, subject: 'Safety day on Thursday', body: 'On Thursday the boat shop holds its yearly safety day. Closed shoes, hair tied back, and the signed sheet, please.' },
	{ weeksAgo: 0, weekday: 1, time: '09:00', by: 'maren', sections: homerooms('3', '4'), to: guardians, ways, subject: 'Picture day on Thursday', body: 'The photographer comes on Thursday at 9 am. The order form is in the folder; paying can wait until Friday.' },
	{ weeksAgo: 0, weekday: 1, time: '15:05', by: 'ines', sections: [...middle7, ...middle8], to: guardians, ways: letter, subject: 'Missing slips for the museum', body: 'The museum trip is on Friday next week. Slips that are not back by Thursday mean a day in the library.' },
	{ weeksAgo: 0, weekday: 2, time: '07:00', by: 'maren', sections: [...homerooms('5'), ...middle6, ...middle8], to: guardians, ways, subject: 'North Run 40 minutes late today', body: 'The 7:20 boat leaves at 8:00. First period begins at 8:55 for everyone on it; nobody is marked late. Breakfast is kept warm at the landing.' },
	{ weeksAgo: 0, weekday: 2, time: '07:20', by: 'maren', sections: homerooms('K', '1'), to: guardians, ways: letter, stands: { days: 9 }, subject: 'Lantern Walk: bring a jar', body: 'The Lantern Walk is on the 18th. Please send a washed glass jar by Monday.', calledBack: true },
	{ weeksAgo: 0, weekday: 2, time: '07:37', by: 'chidi', sections: ['Boatbuilding 1-A'], to: both, ways, subject: 'Period 3 meets on the pier', body: 'We launch the first hull today. Period 3 meets on the pier, not in the shop. Life vests are there.' }
];
