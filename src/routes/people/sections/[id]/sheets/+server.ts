import { accessSheets } from '$lib/server/http/access-sheets';

/** Sheets of paper for those of a section whom nothing but their inbox reaches. */
export const POST = (event) => accessSheets(event, (sectionId) => ({ sectionId }));
