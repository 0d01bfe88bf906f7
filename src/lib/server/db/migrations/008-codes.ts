/**
 * What the other side said, how often it was tried and what speaks for a machine stand beside the
 * words of an event, and are no longer cut out of them. What is there already is parted here, once
 * and for all, by the words it was written with.
 */
const inBrackets = `said = substr(detail, instr(detail, ' (') + 2, length(detail) - instr(detail, ' (') - 2),
	detail = substr(detail, 1, instr(detail, ' (') - 1)`;

const signs: readonly (readonly [string, string])[] = [
	['head-only', ': only its head was asked for, as machines do'],
	['ahead', ': fetched ahead of any click'],
	['no-browser', ': whoever asked did not name a browser'],
	['program', ': asked for by a program, not by a browser'],
	['just-arrived', ': within seconds of its arrival']
];

export const up: readonly string[] = [
	`ALTER TABLE event ADD COLUMN said TEXT`,
	`ALTER TABLE event ADD COLUMN tries INTEGER`,
	`ALTER TABLE event ADD COLUMN sign TEXT`,
	`UPDATE event SET tries = CAST(substr(detail, 16) AS INTEGER), detail = substr(detail, instr(detail, ' tries: ') + 8)
		WHERE kind = 'failed' AND detail LIKE 'given up after % tries: %'`,
	`UPDATE event SET ${inBrackets}
		WHERE kind IN ('accepted', 'deferred', 'failed', 'delivered', 'receipt')
			AND source IN ('courier', 'mail server', 'text exchange', 'notification', 'read receipt', 'text receipt')
			AND detail LIKE '_% (%)'`,
	`UPDATE event SET code = 'by-hand', said = substr(detail, 12, length(detail) - 26), detail = 'stopped before it left'
		WHERE kind = 'stopped' AND detail LIKE 'stopped by % before it left'`,
	`UPDATE event SET code = 'put-back', ${inBrackets}
		WHERE kind = 'stopped' AND detail LIKE 'not sent: an older database was put back%(%)'`,
	`UPDATE event SET code = 'ended' WHERE kind = 'stopped' AND detail LIKE 'not sent: the end time %'`,
	...signs.map(
		([sign, words]) =>
			`UPDATE event SET sign = '${sign}', detail = substr(detail, 1, length(detail) - ${words.length})
			WHERE strength = 'weak' AND detail LIKE '%${words}'`
	),
	`UPDATE event SET sign = 'many-readers', detail = substr(detail, 1, instr(detail, ': the same place opened ') - 1)
		WHERE strength = 'weak' AND detail LIKE '%: the same place opened the letters of %'`,
	// A reminder is named by its offset as data: "3 days before start" was one word after another.
	...['before', 'after'].flatMap((side) =>
		['start', 'end'].map((of) => {
			const tail = ` ${side} ${of}`;
			return `UPDATE dispatch SET round_key = '[' || substr(round_key, 1, instr(round_key, ' ') - 1) || ',"' ||
				substr(round_key, instr(round_key, ' ') + 1, length(round_key) - instr(round_key, ' ') - ${tail.length}) ||
				'","${side}","${of}"]'
				WHERE round_key LIKE '%${tail}'`;
		})
	)
];
