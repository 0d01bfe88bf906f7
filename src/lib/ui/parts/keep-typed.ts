import type { SubmitFunction } from '@sveltejs/kit';

/** For forms that show how something stands: what was typed and ticked stays after it was sent. A form that is reset would show what nobody has chosen, and the next *Save* would say it. */
export const keepTyped: SubmitFunction =
	() =>
	({ update }) =>
		update({ reset: false });
