import * as access from './access';
import * as board from './board';
import * as calendar from './calendar';
import * as coming from './coming';
import * as delivery from './delivery';
import * as dispatch from './dispatch';
import * as expect from './expect';
import * as feed from './feed';
import * as leaving from './leaving';
import * as log from './log';
import * as joining from './joining';
import * as roster from './roster';
import * as rosters from './rosters';
import * as running from './running';
import * as talk from './talk';
import type { Table } from './table';

const isTable = (x: unknown): x is Table => typeof x === 'object' && x !== null && 'columns' in x;

const tablesOf = (module: object): Table[] => Object.values(module).filter(isTable);
/** Every table there is, by what it is about, in the order in which one reads them. */
export const tables: readonly (readonly [about: string, tables: readonly Table[]])[] = [
	['People and how they belong together', tablesOf(roster)],
	['Open groups and who joins them', tablesOf(joining)],
	['What is said, to whom and when', tablesOf(dispatch)],
	['Feeds whose words are sent', tablesOf(feed)],
	['Copies, evidence and what came back', tablesOf(delivery)],
	['What is to be expected', tablesOf(expect)],
	['Boards', tablesOf(board)],
	['Invitations and who comes', tablesOf(coming)],
	['What families send back, and our answers', tablesOf(talk)],
	['The school calendar', tablesOf(calendar)],
	['Who may come in', tablesOf(access)],
	['What was done', tablesOf(log)],
	['What is taken along', tablesOf(leaving)],
	['Rosters that come in', tablesOf(rosters)],
	['How it runs', tablesOf(running)]
];
