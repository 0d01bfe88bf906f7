import { fold } from '../../format/fold';

const relations = new Set(
	'mother father parent guardian stepmother stepfather legal-guardian foster-parent foster-mother foster-father'.split(
		' '
	)
);

/** Whether a relation is a guardian's, where nobody has said who is one (common practice). */
export const isGuardianBy = (relation: string): boolean =>
	relations.has(fold(relation.trim()).replaceAll(' ', '-'));

/** What somebody is to a student where a list does not say. */
export const plainRelation = 'contact';
