import { fieldLabel } from './fields';

/** Words as lists show them: a field by its label, since nobody in particular is written to there. */
export const listWords = (template: string): string =>
	template
		.replace(/\{\{\^([^}]+)\}\}.*?\{\{\/\1\}\}/gs, '')
		.replace(/\{\{[#/][^}]+\}\}/g, '')
		.replace(/\{\{([^}]+)\}\}/g, (_, name: string) => `[${fieldLabel(name.trim())}]`);
