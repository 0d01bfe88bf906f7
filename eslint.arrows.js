import boundaries from 'eslint-plugin-boundaries';

/**
 * The rooms of the code and which of them each may import, types too: a wrong import is an error,
 * so that a new arrow is drawn here on purpose. docs/ARCHITECTURE.md has the picture.
 */

/** The drawers of the desk: each is a stretch of the job. */
const desk = {
	track: [],
	expect: ['track'],
	silent: ['track', 'expect'],
	report: ['silent', 'track'],
	load: [],
	audience: ['track', 'expect'],
	sheet: ['audience'],
	plan: ['sheet', 'audience', 'load', 'track', 'expect'],
	send: ['plan', 'sheet', 'audience', 'track'],
	reach: ['sheet', 'track', 'expect'],
	people: ['track', 'expect'],
	feeds: ['send', 'sheet', 'staff'],
	week: ['sheet', 'load', 'people', 'replies', 'roster', 'track'],
	calendar: ['send', 'week', 'sheet'],
	family: ['sheet', 'track'],
	boards: ['family', 'sheet', 'track'],
	invitations: ['sheet', 'track'],
	staff: ['reach', 'people', 'roster', 'sheet', 'track'],
	replies: ['staff', 'send', 'sheet', 'track', 'joining', 'invitations'],
	office: ['district', 'people', 'send'],
	roster: ['people', 'audience', 'track'],
	hand: ['roster', 'people', 'track'],
	places: ['track', 'audience', 'sheet', 'roster'],
	groups: ['hand', 'places', 'audience', 'roster'],
	joining: ['groups', 'hand', 'roster'],
	markers: ['hand', 'places', 'roster'],
	log: [],
	keep: [],
	leaving: ['sheet', 'calendar', 'places', 'roster', 'track'],
	work: ['send', 'staff', 'hand', 'people', 'track'],
	district: ['work', 'send', 'plan', 'sheet', 'keep', 'hand', 'staff', 'people', 'track']
};

/** The core. */
const core = {
	copy: [],
	talk: [],
	time: ['copy'],
	format: ['time'],
	roster: ['copy', 'format', 'time'],
	audience: ['copy', 'roster'],
	plan: ['audience', 'copy', 'format', 'roster', 'talk', 'time'],
	track: ['audience', 'copy', 'plan', 'roster', 'time']
};

/** The rest of the server; `house` are the files beside the rooms: settings, the clock, the services. */
const server = {
	house: ['db', 'access', 'gateway', 'planner'],
	db: ['house'],
	gateway: ['house'],
	reading: ['gateway'],
	paper: [],
	live: ['house', 'db'],
	access: ['house', 'db', 'reading'],
	planner: ['house', 'db', 'access', 'desk'],
	http: ['house', 'db', 'access', 'gateway', 'planner', 'desk', 'paper']
};
const deskAlso = ['house', 'db', 'access', 'gateway', 'reading', 'paper', 'live'];

/** The parts of Write: all may import the sheet itself, and how it lands also who else gets it. */
const write = {
	sheet: [],
	who: [],
	ways: [],
	wording: [],
	when: [],
	landing: ['ways'],
	manifest: [],
	expect: [],
	silent: []
};

const rooms = Object.keys(server).filter((room) => room !== 'house');
const serverSide = [...Object.keys(server), 'desk', 'desk-types'];
const typesOf = (drawers) => drawers.map((drawer) => ['desk-types', { drawer }]);

export default {
	plugins: { boundaries },
	settings: {
		'import/resolver': { typescript: { project: './tsconfig.json' } },
		'boundaries/include': ['{src,courier,standin,upkeep,demo,test}/**/*.{ts,svelte}'],
		'boundaries/elements': [
			{ type: 'core-list', mode: 'full', pattern: 'src/lib/core/*.ts' },
			{ type: 'core', pattern: 'src/lib/core/*', capture: ['drawer'] },
			{
				type: 'desk-types',
				mode: 'full',
				pattern: 'src/lib/server/desk/*/types.ts',
				capture: ['drawer']
			},
			{ type: 'desk', pattern: 'src/lib/server/desk/*', capture: ['drawer'] },
			...rooms.map((room) => ({ type: room, pattern: `src/lib/server/${room}` })),
			{ type: 'house', mode: 'full', pattern: 'src/lib/server/*.ts' },
			{ type: 'write', pattern: 'src/lib/ui/write/*', capture: ['part'] },
			{ type: 'ui', pattern: 'src/lib/ui/*', capture: ['place'] },
			{ type: 'page', mode: 'full', pattern: 'src/routes/**/*.svelte' },
			{ type: 'routes', mode: 'full', pattern: 'src/routes/**/*.ts' },
			{ type: 'hooks', mode: 'full', pattern: 'src/*.ts' },
			...['courier', 'standin', 'upkeep', 'demo', 'test'].map((type) => ({
				type,
				mode: 'full',
				pattern: `${type}/**/*`
			}))
		]
	},
	rules: {
		'boundaries/no-unknown-files': 'error',
		'boundaries/element-types': [
			'error',
			{
				default: 'disallow',
				message: '${file.type} may not import ${dependency.type}: eslint.arrows.js has the arrows',
				rules: [
					{ from: ['core', 'core-list'], allow: ['core-list'] },
					...Object.entries(core).map(([drawer, others]) => ({
						from: [['core', { drawer }]],
						allow: [drawer, ...others].map((other) => ['core', { drawer: other }])
					})),
					{ from: serverSide, allow: ['core', 'core-list'] },
					...Object.entries(server).map(([room, others]) => ({
						from: [room],
						allow: [room, ...others, ...(others.includes('desk') ? ['desk-types'] : [])]
					})),
					...Object.entries(desk).map(([drawer, others]) => ({
						from: [
							['desk', { drawer }],
							['desk-types', { drawer }]
						],
						allow: [
							...deskAlso,
							...[drawer, ...others].map((other) => ['desk', { drawer: other }]),
							...typesOf([drawer, ...others])
						]
					})),
					// What is shown imports no query: only the shapes of what they give.
					{
						from: ['ui', 'write', 'page'],
						allow: ['core', 'core-list', 'desk-types', ['ui', { place: 'parts' }]]
					},
					{
						from: ['ui'],
						allow: [
							['ui', { place: '${from.place}' }],
							['write', { part: 'sheet' }]
						]
					},
					...Object.entries(write).map(([part, others]) => ({
						from: [['write', { part }]],
						allow: [part, 'sheet', ...others].map((other) => ['write', { part: other }])
					})),
					{ from: ['page'], allow: ['ui', 'write'] },
					{
						from: ['routes', 'hooks'],
						allow: ['core', 'core-list', 'routes', 'hooks', ...serverSide]
					},
					{
						from: ['courier'],
						allow: [
							'courier',
							'core',
							'core-list',
							'house',
							'db',
							'access',
							'gateway',
							'reading',
							'planner',
							'desk',
							'desk-types'
						]
					},
					// A stand-in knows protocols only, so that a real service can take its place.
					{ from: ['standin'], allow: ['standin'] },
					{ from: ['upkeep'], allow: ['upkeep', 'house', 'db', 'access'] },
					{
						from: ['demo'],
						allow: ['demo', 'standin', 'courier', 'core', 'core-list', ...serverSide]
					},
					{
						from: ['test'],
						allow: [
							'test',
							'demo',
							'standin',
							'courier',
							'upkeep',
							'core',
							'core-list',
							'ui',
							'write',
							...serverSide
						]
					}
				]
			}
		]
	}
};
