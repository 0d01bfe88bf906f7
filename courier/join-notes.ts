import { escapeHtml } from '../src/lib/core/copy/template';
import { languageDirection } from '../src/lib/core/copy/direction';
import { joinPhrases, type JoinPhrases } from '../src/lib/core/copy/join-phrases';
import { fillPhrase } from '../src/lib/core/copy/phrases';
import type { WayOut } from '../src/lib/core/roster/way';
import { retryAt } from '../src/lib/core/time/retry';
import { addressFor, joinToken, messageId, textReference } from '../src/lib/server/access/tokens';
import { now } from '../src/lib/server/clock';
import { readDistrict, type District } from '../src/lib/server/db/district';
import { joinNote, type JoiningRow, type JoinNoteRow } from '../src/lib/server/db/models/joining';
import type { Query } from '../src/lib/server/db/open';
import { saidText, type Outcome } from '../src/lib/server/gateway/outcome';
import type { House } from './house';

/** What is said to one who joins, with all it is said with. */
type Waiting = Pick<JoinNoteRow, 'id' | 'kind' | 'attempts' | 'answers' | 'nonce'> &
	Pick<JoiningRow, 'way' | 'address' | 'name' | 'language'> & {
		readonly joiningId: number;
		readonly joiningNonce: string;
		readonly group: string;
		readonly code: string | null;
	};

const atOnce = 50;

/** When the next of what is said to whoever joins is due (job's clock, ms); null where nothing is. */
export async function nextJoinNote(db: Query, way: WayOut): Promise<number | null> {
	const row = await db.one<{ at: number | null }>(
		`SELECT min(due_at) AS at FROM join_note JOIN joining ON joining.id = joining_id
		WHERE join_note.state = 'waiting' AND way = $way`,
		{ way }
	);
	return row?.at ?? null;
}

const textPhrase = {
	'ask-name': 'askName',
	ask: 'askCode',
	welcome: 'welcome',
	invite: 'askCode',
	removed: 'removed',
	over: 'over'
} as const satisfies Record<Waiting['kind'], keyof JoinPhrases>;

const mailPhrases = {
	'ask-name': ['askSubject', 'ask'],
	ask: ['askSubject', 'ask'],
	welcome: ['welcomeSubject', 'welcomeMail'],
	invite: ['inviteSubject', 'invite'],
	removed: ['askSubject', 'removed'],
	over: ['askSubject', 'over']
} as const satisfies Record<Waiting['kind'], readonly (keyof JoinPhrases)[]>;

/** A letter of a few lines: its words, and the page that is its reader's own. */
function letterOf(
	words: JoinPhrases & { readonly tag: string },
	text: string,
	link: string | null
) {
	const h = escapeHtml;
	const direction = languageDirection(words.tag);
	return {
		language: words.tag,
		text: [text, ...(link === null ? [] : [`${words.page}:\n${link}`])].join('\n\n'),
		html:
			`<!doctype html><html lang="${words.tag}" dir="${direction}"><head><meta charset="utf-8"></head>` +
			`<body style="font-family:sans-serif;font-size:16px;line-height:1.5;color:#1d2b33">` +
			`<p>${h(text)}</p>` +
			(link === null
				? ''
				: `<p><a href="${h(link)}" style="color:#0f5c63;font-weight:bold">${h(words.page)}</a><br><span dir="ltr">${h(link)}</span></p>`) +
			`</body></html>`
	};
}

async function send(home: House, district: District, note: Waiting): Promise<Outcome> {
	const { settings, key, mail, text } = home;
	const words = joinPhrases(note.language);
	const parts = {
		...{ group: note.group, district: district.name, name: note.name, code: note.code ?? '' },
		to: note.address
	};
	if (note.way === 'text')
		return text.send({
			to: note.address,
			from: district.textFrom,
			text: fillPhrase(words[textPhrase[note.kind]], parts),
			reference: textReference(key, note.nonce)
		});
	const [subject, body] = mailPhrases[note.kind];
	const token = joinToken(key, { id: note.joiningId, nonce: note.joiningNonce });
	const hasPage = note.kind !== 'removed' && note.kind !== 'over';
	return mail.send({
		messageId: messageId(key, 'join', note, settings.returnDomain),
		date: new Date(await now(home.db)),
		from: { name: district.name, address: district.mailFrom },
		replyTo: null,
		to: { name: note.name, address: note.address },
		returnAddress: addressFor(key, 'join', note, settings.returnDomain),
		subject: fillPhrase(words[subject], parts),
		...letterOf(
			words,
			fillPhrase(words[body], parts),
			hasPage ? `${settings.publicUrl}/join/me/${token}` : null
		),
		...{ pictures: [], attached: [], stopLink: null, automatic: true, answers: note.answers }
	});
}

/** What becomes of a note by what its provider said. One that may have arrived is not said again. */
function afterwards(note: Waiting, outcome: Outcome, at: number): Partial<JoinNoteRow> | null {
	const attempts = note.attempts + 1;
	switch (outcome.kind) {
		case 'unavailable':
			return null;
		case 'accepted':
			return { state: 'sent', detail: saidText(outcome), attempts };
		case 'unanswered':
			return { state: 'sent', detail: `no answer: ${outcome.why}`, attempts };
		case 'refused':
			return { state: 'failed', detail: saidText(outcome), attempts };
		case 'deferred': {
			const next = retryAt(at, attempts);
			return {
				state: next === null ? 'failed' : 'waiting',
				...{ detail: saidText(outcome), dueAt: next ?? at, attempts }
			};
		}
	}
}

/** Says by one way what waits to be said to whoever joins a group: where its provider is away or slow all of it waits on, and the other way goes on. How much was said. */
export async function sendJoinNotes(home: House, way: WayOut): Promise<number> {
	const { db, me } = home;
	if (!(await me.holds(db))) return 0;
	const waiting = await db.all<Waiting>(
		`SELECT join_note.id, join_note.kind, attempts, answers, join_note.nonce, way, address, joining.name, language,
			joining.id AS joiningId, joining.nonce AS joiningNonce, school_group.name AS "group", code
		FROM join_note JOIN joining ON joining.id = joining_id JOIN school_group ON school_group.id = group_id
		WHERE join_note.state = 'waiting' AND due_at <= $time AND way = $way ORDER BY join_note.id LIMIT ${atOnce}`,
		{ time: await now(db), way }
	);
	if (waiting.length === 0) return 0;
	const district = await readDistrict(db);
	let said = 0;
	for (const note of waiting) {
		const outcome = await send(home, district, note);
		const next = afterwards(note, outcome, Math.round(await now(db)));
		if (next === null) break;
		await db.rows(joinNote).change({ id: note.id, state: 'waiting' }, next);
		said += 1;
	}
	return said;
}
