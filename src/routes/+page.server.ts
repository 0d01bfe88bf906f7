import { redirect } from '@sveltejs/kit';

/** Week is home. */
export const load = () => redirect(307, '/week');
