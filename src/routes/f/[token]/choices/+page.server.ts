import { fail } from '@sveltejs/kit';
import { z } from 'zod';
import { choicePhrases } from '$lib/core/copy/choice-phrases';
import { now } from '$lib/server/clock';
import { readDistrict } from '$lib/server/db/district';
import { choicesSchema, readChoices, setChoices, setTexts } from '$lib/server/desk/family/choices';
import { languageOfReader } from '$lib/server/desk/family/reader';
import { endThisLink } from '$lib/server/desk/replies/end-link';
import { openedLink } from '$lib/server/http/open-link';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params }) => {
	const s = await services();
	const { personId } = await openedLink(s, params.token);
	const choices = await readChoices(s.db, personId);
	const { name } = await readDistrict(s.db);
	return {
		choices,
		district: name,
		zone: choices.usualZone,
		now: await now(s.db),
		zones: Intl.supportedValuesOf('timeZone')
	};
};

const textsSchema = z.object({
	phone: z.coerce.number().int().positive(),
	on: z.enum(['yes', 'no']).transform((on) => on === 'yes')
});

export const actions: Actions = {
	save: async ({ params, request }) => {
		const s = await services();
		const { personId } = await openedLink(s, params.token);
		const words = choicePhrases(await languageOfReader(s.db, personId));
		const form = await request.formData().catch(() => null);
		const parsed = choicesSchema.safeParse({
			...Object.fromEntries(form ?? []),
			wants: form?.getAll('wants') ?? []
		});
		if (!parsed.success) {
			const quiet = parsed.error.issues.every(
				(issue) => issue.path[0] === 'digest' && issue.code === 'custom'
			);
			// Nothing that was typed is lost, with or without a script.
			const typed = (name: string) => String(form?.get(name) ?? '').slice(0, 60);
			return fail(400, {
				why: quiet ? words.digestQuiet : words.wrong,
				typed: {
					wants: (form?.getAll('wants') ?? []).map(String),
					...{ quietFrom: typed('quietFrom'), quietTo: typed('quietTo') },
					...{ digest: typed('digest'), zone: typed('zone') }
				}
			});
		}
		const n = await setChoices(s.db, personId, parsed.data);
		const { language } = parsed.data;
		return { said: n === 0 ? choicePhrases(language).nothing : choicePhrases(language).saved };
	},
	texts: async ({ params, request }) => {
		const s = await services();
		const { personId } = await openedLink(s, params.token);
		const words = choicePhrases(await languageOfReader(s.db, personId));
		const parsed = textsSchema.safeParse(await readForm(request));
		if (!parsed.success) return fail(400, { why: words.wrong });
		const { phone, on } = parsed.data;
		const why = await setTexts(s.db, personId, phone, on);
		if (why === 'gone') return fail(409, { why: words.wrong });
		return on ? { asked: phone } : { said: words.saved };
	},
	/** What it opens is not for whoever opened it. */
	end: async ({ params }) => {
		const s = await services();
		const opened = await openedLink(s, params.token);
		const language = await languageOfReader(s.db, opened.personId);
		await endThisLink(s.db, params.token, opened);
		return { ended: choicePhrases(language).ended };
	}
};
