import { fail } from '@sveltejs/kit';
import { z } from 'zod';
import { familyPhrases } from '$lib/core/copy/family-phrases';
import { fillPhrase } from '$lib/core/copy/phrases';
import { inboxOf } from '$lib/server/desk/family/family';
import { letterHappened } from '$lib/server/desk/family/letter-happened';
import { linkFollowed } from '$lib/server/desk/family/requested';
import { lettersFound } from '$lib/server/desk/family/letters-found';
import { answerOnPage, writeToSection, type Taken } from '$lib/server/desk/replies/from-inbox';
import { sectionsToWriteTo } from '$lib/server/desk/replies/sections-open';
import { languageOfReader } from '$lib/server/desk/family/reader';
import { comingFormSchema } from '$lib/server/http/coming-form';
import { answerOnOwnPage, ownInvitation } from '$lib/server/desk/invitations/own-invitation';
import { comingFault } from '$lib/core/copy/coming-fault';
import { openedLink } from '$lib/server/http/open-link';
import { readWritten } from '$lib/server/http/read-answer';
import { whoIsThere } from '$lib/server/live/talk';
import { services } from '$lib/server/services';
import { visitorOf } from '$lib/server/http/visitor';
import type { Actions, PageServerLoad } from './$types';
import { readForm } from '$lib/server/http/read-form';

const meantSchema = z.enum(['yes', 'no']).nullable().catch(null);
const keySchema = z.string().max(40);
const idSchema = z.coerce.number().int().positive();
const findSchema = z.object({
	q: z.string().trim().max(100).catch(''),
	child: idSchema.nullable().catch(null)
});

export const load: PageServerLoad = async (event) => {
	const { params, url } = event;
	const s = await services();
	const link = await openedLink(s, params.token);
	const inbox = await inboxOf(s.db, link.personId, `/f/${params.token}`);
	// Asking for the page is itself the evidence that the link was followed.
	if (link.deliveryId !== null && !event.isDataRequest) {
		await linkFollowed(s.db, link.deliveryId, visitorOf(s, event));
	}
	const find = findSchema.parse(Object.fromEntries(url.searchParams));
	const wanted = keySchema.safeParse(url.searchParams.get('letter'));
	const letters = lettersFound(inbox.letters, find);
	// A copy that answers what they wrote leads to the letter that it is about.
	const about =
		inbox.talks.find((t) => t.lines.some((l) => l.dispatchId === link.dispatchId))?.dispatchId ??
		link.dispatchId;
	const open =
		letters.find((l) => wanted.success && l.key === wanted.data) ??
		letters.find((l) => l.dispatchId !== null && l.dispatchId === about) ??
		letters.find((l) => l.seenAt === null && l.mayAcknowledge && !l.over) ??
		letters.find((l) => !l.over) ??
		letters[0];
	return {
		inbox: { ...inbox, letters },
		find,
		sections: await sectionsToWriteTo(s.db, link.personId),
		/** Who of the school is here, at the letter that stands open. */
		there:
			open?.dispatchId == null ? [] : whoIsThere(`d${open.dispatchId} p${link.personId}`).staff,
		open: open ? { key: open.key, dispatchId: open.dispatchId } : null,
		/** Whether they come, where the open letter asks it. */
		coming:
			open?.dispatchId == null ? null : await ownInvitation(s.db, link.personId, open.dispatchId),
		/** Which answer the link of an email was; it is given on the page alone. */
		meant: meantSchema.parse(url.searchParams.get('coming'))
	};
};

const whyNot = (taken: Extract<Taken, { ok: false }>, language: string): string => {
	const words = familyPhrases(language);
	return { gone: words.noWords, 'too-many': words.tooMany, 'one-way': words.noAnswers }[taken.why];
};

export const actions: Actions = {
	seen: async (event) => {
		const { params, request } = event;
		const s = await services();
		const link = await openedLink(s, params.token);
		const letter = idSchema.safeParse((await readForm(request)).letter);
		const result = letter.success
			? await letterHappened(s.db, link, letter.data, 'acknowledged', visitorOf(s, event))
			: null;
		if (!result)
			return fail(400, { why: 'This letter is not in your inbox any more. Load the page again.' });
		return { seen: letter.data };
	},
	coming: async (event) => {
		const { params, request } = event;
		const s = await services();
		const link = await openedLink(s, params.token);
		const form = await readForm(request);
		const letter = idSchema.safeParse(form.letter);
		const said = comingFormSchema.safeParse(form);
		const done = !letter.success
			? ({ ok: false, why: 'gone' } as const)
			: !said.success
				? ({ ok: false, why: 'no-people' } as const)
				: await answerOnOwnPage(s.db, link, letter.data, said.data, visitorOf(s, event));
		if (done.ok) return { comingSaid: true };
		const asked = letter.success ? await ownInvitation(s.db, link.personId, letter.data) : null;
		return fail(done.why === 'too-often' ? 429 : 409, {
			notComing: comingFault(
				done.why,
				await languageOfReader(s.db, link.personId),
				asked?.most ?? 0
			)
		});
	},
	answer: async ({ params, request }) => {
		const s = await services();
		// Whose link it is is known before anything of what is sent is read.
		const link = await openedLink(s, params.token);
		const language = await languageOfReader(s.db, link.personId);
		const { written, nothing, field } = await readWritten(s, link.personId, request);
		const letter = idSchema.safeParse(field('letter'));
		const at = letter.success ? { letter: letter.data } : {};
		if (nothing) return fail(400, { ...at, notSent: familyPhrases(language).noWords });
		const taken = letter.success
			? await answerOnPage(s.db, link, letter.data, written)
			: ({ ok: false, why: 'gone' } as const);
		if (!taken.ok) return fail(409, { ...at, notSent: whyNot(taken, language) });
		return { ...at, answered: true, notKept: notKept(written.files, language) };
	},
	write: async ({ params, request }) => {
		const s = await services();
		const link = await openedLink(s, params.token);
		const language = await languageOfReader(s.db, link.personId);
		const { written, nothing, field } = await readWritten(s, link.personId, request);
		if (nothing) return fail(400, { notBegun: familyPhrases(language).noWords });
		const talk = idSchema.safeParse(field('talk'));
		const section = idSchema.safeParse(field('section'));
		const to = talk.success
			? { conversationId: talk.data }
			: { sectionId: section.data ?? 0, subject: field('subject').trim().slice(0, 200) };
		const taken = await writeToSection(s.db, link, to, written);
		if (!taken.ok) return fail(409, { notBegun: whyNot(taken, language) });
		return { begun: true, notKept: notKept(written.files, language) };
	}
};

/** Files that were not kept, in words. */
const notKept = (files: readonly { readonly why: string | null }[], language: string): string[] =>
	files.flatMap((f) =>
		f.why === null ? [] : [fillPhrase(familyPhrases(language).fileNotTaken, { why: f.why })]
	);
