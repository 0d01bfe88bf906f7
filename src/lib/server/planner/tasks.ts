import { effectsOf } from '../desk/district/effects';
import type { Audience } from '../../core/audience/audience';
import type { User } from '../access/user';
import { saveDraft } from '../desk/sheet/draft';
import { keepAudience, keptChange, keptLines, useKept } from '../desk/audience/kept';
import { manifestPage } from '../desk/plan/manifest-page';
import { proofOf, proofReaders, sendProof, type ProofAsked } from '../desk/plan/proof';
import { saveEvent, type EventInput } from '../desk/calendar/events';
import { importCalendar } from '../desk/calendar/import-calendar';
import { goodTimeHint } from '../desk/plan/good-time';
import { readAccount } from '../desk/reach/account';
import { accountSheet } from '../desk/reach/account-sheet';
import { callSheet, type CallWhom } from '../desk/reach/call-sheet';
import { makeChase } from '../desk/reach/chase';
import type { DeliveryFilter } from '../desk/track/listed-copies';
import { dispatchLines } from '../desk/week/dispatch-lines';
import { dispatchList, type ListFilter } from '../desk/week/dispatch-list';
import { leftOutPage } from '../desk/reach/left-out-page';
import { failingAddresses } from '../desk/people/mend';
import { roundViews } from '../desk/calendar/round-view';
import { familiesOn } from '../desk/load/load-families';
import { moveEffects } from '../desk/plan/move-effects';
import { moveDispatch } from '../desk/send/move';
import { deliveryCsv } from '../desk/reach/delivery-csv';
import { personView, type LogFilter } from '../desk/people/person';
import { reachOfPlaces } from '../desk/places/place';
import { placeCards } from '../desk/places/cards';
import { reachOfPlace, type ReachAsked } from '../desk/places/reach';
import { studentsOfKept } from '../desk/groups/from-audience';
import { studentsInTable } from '../desk/groups/from-list';
import { lookAtCards } from '../desk/joining/from-cards';
import { groupView } from '../desk/groups/groups';
import { lookAtMarks } from '../desk/markers/list-marks';
import { markerView, type MarkerAsked } from '../desk/markers/markers';
import { sectionView } from '../desk/places/sections';
import { sectionRings } from '../desk/reach/covered';
import { reachNews } from '../desk/reach/change';
import { dispatchReach } from '../desk/reach/reach';
import { release } from '../desk/send/release';
import { releaseFeed, type DateTaken } from '../desk/send/release-feed';
import { followZone, replan, replanAhead } from '../desk/send/replan';
import { putStanding } from '../desk/send/standing';
import { resume } from '../desk/send/resume';
import { schedule } from '../desk/send/schedule';
import { audienceFrom, sentenceOf } from '../desk/audience/sentence';
import type { Sending, Sheet } from '../desk/sheet/sheet';
import { landing, namesBehind } from '../desk/plan/tally';
import { textLengths } from '../desk/plan/text-lengths';
import {
	countSilent,
	silentFamilies,
	silentToCall,
	type SilentFilter
} from '../desk/silent/silent-families';
import { termReport, type ReportAsked } from '../desk/report/term-report';
import { whatToExpect } from '../desk/plan/what-to-expect';
import { monthView, weekView } from '../desk/week/week';
import { now } from '../clock';
import type { Settled } from '../desk/district/settled';
import { waysOut } from '../providers';
import { outside, type Services } from '../services';
import type { KeptForm } from '../desk/audience/types';
import type { ManifestFilter, Door } from '../desk/plan/types';
import { manifestView, type Written } from '../desk/plan/manifest-view';
import { addressList, manifestCards, manifestCsv } from '../desk/plan/manifest-files';
import { pack } from '../desk/leaving/pack';
import type { LeavingPart } from '../desk/leaving/types';
import { lookAt } from '../desk/roster/look';
import { takeIn, type Taker } from '../desk/roster/take-in';
import { bringFrom } from '../desk/roster/nightly';
import { takeBack } from '../desk/roster/take-back';
import { turnDay } from '../desk/roster/turn-day';
import { byItself } from './by-itself';
import { warm } from './warm';

const rosterHouse = ({ db, settings, key }: Services) => ({
	db,
	dataFolder: settings.dataFolder,
	key
});

const files = { csv: manifestCsv, vcard: manifestCards, addresses: addressList } as const;

/** Hears how far something is, 0 to 1, and what is being done. */
export type Heard = (done: number, what: string) => void;

/** Everything that works an audience out. Arguments and results are plain data: they cross threads. */
export const tasks = {
	warm: ({ db }: Services) => warm(db),
	landing: async ({ db }: Services, user: User, sheet: Sheet) =>
		landing(db, user, sheet, waysOut(await outside())),
	whatToExpect: async ({ db }: Services, user: User, sheet: Sheet) => {
		const site = await outside();
		return whatToExpect(db, { ...site, waysOut: waysOut(site) }, user, sheet);
	},
	termReport: ({ db }: Services, user: User, asked: ReportAsked) => termReport(db, user, asked),
	countSilent: ({ db }: Services, user: User) => countSilent(db, user),
	silentFamilies: ({ db }: Services, user: User, filter: SilentFilter) =>
		silentFamilies(db, user, filter),
	silentToCall: ({ db }: Services, user: User, filter: Pick<SilentFilter, 'days' | 'school'>) =>
		silentToCall(db, user, filter),
	textLengths: ({ db, settings }: Services, user: User, sheet: Sheet) =>
		textLengths(db, settings.publicUrl, user, sheet),
	proofReaders: ({ db }: Services, user: User, sheet: Sheet, search: string) =>
		proofReaders(db, user, sheet, search),
	proofOf: async ({ db }: Services, user: User, sheet: Sheet, personId: number) =>
		proofOf(db, await outside(), user, sheet, personId),
	sendProof: async ({ db, key }: Services, user: User, asked: ProofAsked) =>
		sendProof({ db, key, site: await outside() }, user, asked),
	names: ({ db }: Services, user: User, sending: Sending, door: Door) =>
		namesBehind(db, user, sending, door),
	manifest: (
		{ db }: Services,
		user: User,
		sending: Sending,
		written: Written,
		filter: ManifestFilter
	) => manifestPage(db, user, sending, written, filter),
	file: async (
		{ db }: Services,
		user: User,
		sending: Sending,
		written: Written,
		as: keyof typeof files
	) => files[as](await manifestView(db, user, sending, written)),
	schedule: ({ db, key }: Services, user: User, sheet: Sheet, copiesSeen: number) =>
		schedule(db, key, user, sheet, copiesSeen),
	putStanding: ({ db }: Services, user: User, sheet: Sheet, copiesSeen: number) =>
		putStanding(db, user, sheet, copiesSeen),
	release: ({ db, key }: Services, standingId: number) => release(db, key, standingId),
	releaseFeed: ({ db, key }: Services, standingId: number, taken: DateTaken) =>
		releaseFeed(db, key, standingId, taken),
	replan: ({ db, key }: Services, dispatchId: number) => replan(db, key, dispatchId),
	goodTime: ({ db }: Services, user: User, sending: Sending) => goodTimeHint(db, user, sending),
	reach: ({ db }: Services, user: User, id: number, filter: DeliveryFilter) =>
		dispatchReach(db, user, id, filter),
	reachNews: ({ db }: Services, id: number, since: number) => reachNews(db, id, since),
	leftOut: ({ db }: Services, user: User, id: number, page: number) =>
		leftOutPage(db, user, id, page),
	person: ({ db }: Services, user: User, id: number, filter: LogFilter) =>
		personView(db, user, id, filter),
	reachOfPlaces: ({ db }: Services, user: User) => reachOfPlaces(db, user),
	reachOfPlace: ({ db }: Services, user: User, key: string, asked: ReachAsked) =>
		reachOfPlace(db, user, key, asked),
	placeCards: (house: Services, user: User, key: string) => placeCards(house, user, key),
	groupView: ({ db }: Services, user: User, id: number) => groupView(db, user, id),
	studentsInTable: ({ db, key }: Services, user: User, groupId: number, content: Uint8Array) =>
		studentsInTable({ db, key }, user, groupId, content),
	cardsSeen: ({ db }: Services, user: User, content: Uint8Array) => lookAtCards(db, user, content),
	markerView: ({ db }: Services, user: User, id: number, asked: MarkerAsked) =>
		markerView(db, user, id, asked),
	lookAtMarks: ({ db, key }: Services, user: User, markerId: number, content: Uint8Array) =>
		lookAtMarks({ db, key }, user, markerId, content),
	studentsOfKept: ({ db }: Services, user: User, keptId: number) =>
		studentsOfKept(db, user, keptId),
	sectionView: ({ db }: Services, user: User, id: number) => sectionView(db, user, id),
	account: ({ db }: Services, user: User, id: number) => readAccount(db, user, id),
	accountFile: ({ db }: Services, user: User, id: number, as: 'csv' | 'pdf') =>
		as === 'csv' ? deliveryCsv(db, user, id) : accountSheet(db, user, id),
	tellStaff: (house: Services) => byItself(house),
	callSheet: ({ db }: Services, user: User, id: number, whom: CallWhom, school: number | null) =>
		callSheet(db, user, id, whom, school),
	makeChase: ({ db }: Services, user: User, id: number) => makeChase(db, user, id),
	sectionRings: ({ db }: Services, user: User, id: number, sectionId: number) =>
		sectionRings(db, user, id, sectionId),
	dispatchList: ({ db }: Services, user: User, filter: ListFilter) =>
		dispatchList(db, user, filter),
	failingAddresses: ({ db }: Services, user: User, page: number) =>
		failingAddresses(db, user, page),
	roundViews: (
		{ db }: Services,
		user: User,
		which: { readonly roundId: number } | { readonly eventId: number }
	) => roundViews(db, user, which),
	dispatchLines: (
		{ db }: Services,
		user: User,
		interval: { readonly from: number; readonly to: number }
	) => dispatchLines(db, user, interval),
	week: ({ db }: Services, user: User, at: number | undefined) => weekView(db, user, at),
	month: ({ db }: Services, user: User, at: number | undefined) => monthView(db, user, at),
	moveEffects: ({ db }: Services, user: User, dispatchId: number, from: string) =>
		moveEffects(db, user, dispatchId, from),
	move: ({ db, key }: Services, user: User, id: number, to: string, base: number) =>
		moveDispatch(db, key, user, id, to, base),
	familiesOn: ({ db }: Services, user: User, date: string) => familiesOn(db, user, date),
	saveEvent: ({ db, key }: Services, user: User, input: EventInput) =>
		saveEvent(db, key, user, input),
	importCalendar: (
		{ db, key }: Services,
		user: User,
		text: string,
		as: 'events' | 'closures',
		take: boolean
	) => importCalendar(db, key, user, text, as, take),
	settingEffects: ({ db }: Services, before: Settled, after: Settled) =>
		effectsOf(db, before, after),
	replanAhead: ({ db, key }: Services) => replanAhead(db, key),
	followZone: ({ db, key }: Services) => followZone(db, key),
	resume: ({ db, key }: Services, user: User, id: number) => resume(db, key, user, id),
	saveDraft: ({ db }: Services, user: User, sheet: Sheet, base: number | null) =>
		saveDraft(db, user, sheet, base),
	sentence: ({ db }: Services, user: User, audience: Audience) => sentenceOf(db, user, audience),
	readSentence: async ({ db }: Services, user: User, text: string, before: Audience) =>
		audienceFrom(db, user, text, before, await now(db)),
	keep: ({ db }: Services, user: User, name: string, form: KeptForm, audience: Audience) =>
		keepAudience(db, user, name, form, audience),
	kept: ({ db }: Services, user: User) => keptLines(db, user),
	keptChange: ({ db }: Services, user: User, id: number) => keptChange(db, user, id),
	useKept: ({ db }: Services, user: User, id: number) => useKept(db, user, id),
	packUp: (
		{ heard, db, key, settings }: House,
		user: User,
		asked: { readonly file: string; readonly parts: readonly LeavingPart[] }
	) =>
		pack(
			{ db, key, heard, dataFolder: settings.dataFolder, publicUrl: settings.publicUrl },
			user,
			asked
		),
	lookAtRoster: ({ heard, ...house }: House, fileId: number) =>
		lookAt(rosterHouse(house), fileId, heard),
	takeRosterIn: ({ heard, ...house }: House, fileId: number, taker: Taker) =>
		takeIn(rosterHouse(house), fileId, taker, heard),
	takeRosterBack: ({ db }: Services, user: User, fileId: number) => takeBack(db, user, fileId),
	bringRosterFrom: (house: Services, folder: string, names: readonly string[]) =>
		bringFrom(rosterHouse(house), folder, names),
	turnRosterDay: (house: Services) => turnDay(rosterHouse(house))
} as const;

/** What a task is done with. */
export interface House extends Services {
	readonly heard: Heard;
}

type Tasks = typeof tasks;
export type TaskName = keyof Tasks;
type Rest<F> = F extends (services: House, ...rest: infer R) => unknown ? R : never;
export type TaskArgs<K extends TaskName> = Rest<Tasks[K]>;
export type TaskResult<K extends TaskName> = Awaited<ReturnType<Tasks[K]>>;

/** What works out the audience of a sheet, which comes after the user: a large one is bulk work. */
export const ofSheet: ReadonlySet<TaskName> = new Set<TaskName>([
	'landing',
	'textLengths',
	'proofReaders',
	'proofOf',
	'sendProof',
	'names',
	'manifest',
	'file',
	'schedule',
	'goodTime',
	'whatToExpect'
]);

/** What looks at what happened to every family: in a large district bulk work. */
export const ofEverybody: ReadonlySet<TaskName> = new Set<TaskName>([
	'termReport',
	'countSilent',
	'silentFamilies',
	'silentToCall'
]);

/** What goes to a planner, and what comes back. */
export interface Asked {
	readonly id: number;
	readonly task: TaskName;
	readonly args: readonly unknown[];
}
export type Answered =
	| { readonly id: number; readonly is: 'done'; readonly value: unknown }
	/** How far it is; the answer comes yet. */
	| { readonly id: number; readonly is: 'under-way'; readonly done: number; readonly what: string }
	/** Nothing was done: it is for the process that does bulk work. */
	| { readonly id: number; readonly is: 'for-bulk' }
	| { readonly id: number; readonly is: 'failed'; readonly message: string };
