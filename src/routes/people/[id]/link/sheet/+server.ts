import { accessSheets } from '$lib/server/http/access-sheets';

/** A sheet of paper that gives somebody the way to their inbox. */
export const POST = (event) => accessSheets(event, (personId) => ({ personId }));
