import type { PastDispatch } from './wordings';

/** The small letters of every week, by which one comes to know how people read: to a class or two each. */

const boats = ['Boatbuilding 1-A', 'Boatbuilding 1-B', 'Boatbuilding 2-A'];
const rooms = ['K', '1', '2', '3', '4', '5'];

/** What is told at Heron Landing, at Brackwater Middle and in the boat shop, one after the other. */
const told = {
	maren: [
		['Folders come home today', 'Look into the folder: the sheet on top wants a name.'],
		['Reading bags on Thursday', 'Bring the bag back by Thursday, with the book in it.'],
		['Snack week', 'Your class brings the snack this week. Cut fruit travels best on the boat.'],
		[
			'Lost mittens',
			'A box of mittens stands at the office. What is left on Friday goes to the landing.'
		],
		['Letters of the week: S and T', 'Look for things that begin with S and T on the way home.'],
		['Visit to the lighthouse', 'We walk up on Wednesday. Warm socks, please.']
	],
	ines: [
		['Quiz on Friday', 'Pages 40 to 52. The sheet with the questions is in the binder.'],
		['Bring a ruler', 'From tomorrow we draw charts. A ruler of 30 cm will do.'],
		['Swim bags', 'Swimming is on Thursday again. Bags stay in the hall, not in lockers.'],
		['Map work due', 'The map of the sound is due on Monday, with names on it.'],
		[
			'Science table',
			'Anything that washed up this week may come along, if it is dead and does not smell.'
		]
	],
	chidi: [
		['Sanding on Tuesday', 'Old clothes, and something to tie your hair with.'],
		[
			'Glue needs a warm shop',
			'Come ten minutes early on Friday: the stove is lit by whoever is first.'
		],
		['Plans to be signed', 'The drawing has to be signed by two of your crew before wood is cut.'],
		['Tools are counted', 'Whoever has a plane at home: it is missed.']
	]
} as const;
type Teller = keyof typeof told;

const sectionsOf: Readonly<Record<Teller, (n: number) => string[]>> = {
	maren: (n) => [`Homeroom ${rooms[n % 6]!}-${'ABC'[n % 3]!}`],
	ines: (n) =>
		[
			[
				['Mathematics 6-A'],
				['Island History 7-A'],
				['Robotics 8-A'],
				['Weather Watch-A'],
				['Drama 7-A']
			][n % 5]!
		].flat(),
	chidi: (n) => [boats[n % 3]!]
};

/** When and by which ways each of them writes. */
const habits: Readonly<
	Record<
		Teller,
		{ readonly days: readonly PastDispatch['weekday'][]; readonly times: readonly string[] }
	>
> = {
	maren: { days: [1, 2, 4], times: ['14:10', '07:30', '16:40'] },
	ines: { days: [2, 3, 5], times: ['15:25', '12:05', '15:50'] },
	chidi: { days: [1, 3], times: ['16:20', '11:30'] }
};

/** The small letters of the weeks before the demo begins. */
export const letters: readonly PastDispatch[] = (Object.keys(told) as Teller[]).flatMap((by) =>
	Array.from({ length: 13 }, (_, week) => week + 1).flatMap((weeksAgo) =>
		habits[by].days.map((weekday, i): PastDispatch => {
			const n = weeksAgo * habits[by].days.length + i;
			const [subject, body] = told[by][n % told[by].length]!;
			return {
				...{ weeksAgo, weekday, by, subject, body, sections: sectionsOf[by](n) },
				time: habits[by].times[i]!,
				to: by === 'chidi' ? ['guardians', 'students'] : ['guardians'],
				ways: n % 3 === 0 ? ['email', 'text', 'inbox'] : ['email', 'inbox']
			};
		})
	)
);
