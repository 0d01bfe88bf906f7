/**
 * A board of everybody in the large district and one of a section of about twenty students, each with as many
 * announcements, in a process of its own: `boards.ts <file>`. Prints one line of JSON: what it takes to open each as
 * anybody does, a family's page of its boards, and to answer a program that has the feed already (medians).
 */
import { randomUUID } from 'node:crypto';
import { performance } from 'node:perf_hooks';
import { wordingOf } from '../../src/lib/core/copy/words';
import type { BoardPlace } from '../../src/lib/core/audience/board-place';
import { migrate } from '../../src/lib/server/db/migrate';
import { openDatabase } from '../../src/lib/server/db/open';
import { boardFeed } from '../../src/lib/server/desk/boards/board-feed';
import { familyBoards } from '../../src/lib/server/desk/boards/family-boards';
import { openBoard } from '../../src/lib/server/desk/boards/open-board';
import { named } from '../../src/lib/server/desk/boards/places';
import { usualTiming } from '../../src/lib/core/time/timing';
import { unlessSame } from '../../src/lib/server/http/unless-same';
import { ownCopy } from './bench-copy';
import { benchSheet, openFor } from './bench-sheet';

process.setSourceMapsEnabled(false);

const [file] = process.argv.slice(2) as [string];
const db = await openDatabase(ownCopy(file));
await migrate(db);
const user = await openFor(db);
const posts = 12;
const rounds = 41;

/** A section of a term that is on, with about twenty students, and an adult of one of them. */
const small = (await db.one<{ id: number; students: number; adult: number }>(
	`SELECT section_id AS id, count(DISTINCT student_id) AS students, min(person_id) AS adult FROM enrolment_now
		JOIN contact_now USING (student_id) GROUP BY 1 ORDER BY abs(count(DISTINCT student_id) - 20), 1 LIMIT 1`
))!;
const places: readonly BoardPlace[] = [
	{ kind: 'section', id: small.id },
	{ kind: 'district', id: 0 }
];
const { wording, letter, audience, copies } = benchSheet([1], []);
await db.write(async (tx) => {
	for (const { kind, id } of places) {
		for (let n = 0; n < posts; n += 1) {
			const words = wordingOf(
				`Late boats, ${n}`,
				`The 7:20 boat leaves at 8:00.\n\n${'It is blown back by the wind. '.repeat(12)}`
			);
			await tx.run(
				`INSERT INTO dispatch (sheet_key, subject, body, audience, audience_words, ways, hold_minutes, sender_id, state,
					changed_at, scheduled_at, leaves_at, sent_at, kind, handling, wording, letter, board, timing)
				VALUES ($key, $subject, '', $audience, 'everybody', '[]', 0, $user, 'sent', 0, 1, 1, 1, 'announcement', $handling,
					$wording, $letter, '{}', $timing)`,
				{
					...{ key: randomUUID(), subject: words.words.subject, user: user.personId },
					...{ audience: JSON.stringify(audience), handling: JSON.stringify(copies) },
					...{ wording: JSON.stringify({ ...wording, ...words }), letter: JSON.stringify(letter) },
					timing: JSON.stringify(usualTiming)
				}
			);
			await tx.run(
				`INSERT INTO board_place (dispatch_id, kind, place_id, term_id) VALUES (last_insert_rowid(), $kind, $id, 0)`,
				{ kind, id }
			);
		}
	}
	await tx.run('ANALYZE');
});

/** The median of what something takes, ms; the first few times warm it. */
async function median(work: () => Promise<unknown>): Promise<number> {
	const took: number[] = [];
	for (let n = 0; n < rounds + 6; n += 1) {
		const start = performance.now();
		await work();
		if (n >= 6) took.push(performance.now() - start);
	}
	return took.sort((a, b) => a - b)[Math.floor(took.length / 2)]!;
}

const [section, district] = await named(db, places);
const opened = (place: typeof section) =>
	median(async () => {
		const { board } = await openBoard(db, place!, 'en', '/b/x', null);
		if (board.pinned.length + board.front.length + board.earlier.length !== posts)
			throw new Error('not all of it stands there');
	});
const asked = new Request('http://bench.example/b/x/news.atom');
const reader = {
	...{ personId: null, language: 'en', site: 'http://bench.example', path: '/b/x' },
	...{ feed: 'news.atom', madeAt: 0 }
};
const answer = async (request: Request) =>
	unlessSame(request, 'application/atom+xml', await boardFeed(db, district!, reader));
const tag = (await answer(asked)).headers.get('etag')!;
const again = new Request(asked.url, { headers: { 'if-none-match': tag } });
process.stdout.write(
	`${JSON.stringify({
		students: (await db.one<{ n: number }>(
			`SELECT count(*) AS n FROM person_now WHERE kind = 'student'`
		))!.n,
		few: small.students,
		sectionMs: await opened(section),
		districtMs: await opened(district),
		familyMs: await median(() =>
			familyBoards(db, small.adult, '/f/x', { termId: null, asked: null })
		),
		feedMs: await median(async () => (await answer(asked)).text()),
		sameMs: await median(async () => {
			if ((await answer(again)).status !== 304) throw new Error('it was sent again');
		})
	})}\n`
);
process.exit(0);
