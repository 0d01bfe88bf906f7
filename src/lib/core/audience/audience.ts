import { z } from 'zod';
import { mostMarkCharacters } from '../roster/marker';

/**
 * The audience: the expression that says who. It is data, stored as JSON with its version, checked
 * here wherever it comes from. A line names students and says which people are meant for them;
 * picking a student never by itself means that the student is written to.
 */

const idSchema = z.number().int().positive();
const idsSchema = z.array(idSchema).max(5000, 'A line holds 5,000 picks at most.');

const pickSchemas = [
	z.object({ kind: z.literal('sections'), ids: idsSchema }),
	/** Every section of these courses in one term. */
	z.object({ kind: z.literal('courses'), ids: idsSchema, termId: idSchema }),
	/** Everyone enrolled in any section of these terms. */
	z.object({ kind: z.literal('terms'), ids: idsSchema }),
	z.object({ kind: z.literal('schools'), ids: idsSchema }),
	z.object({ kind: z.literal('grades'), levels: z.array(z.string().min(1).max(60)).max(60) }),
	z.object({ kind: z.literal('groups'), ids: idsSchema }),
	z.object({ kind: z.literal('students'), ids: idsSchema }),
	/** Students of an earlier dispatch that are not covered by it at the time of asking. */
	z.object({ kind: z.literal('uncovered'), ids: idsSchema })
] as const;

/** Students, picked by one fact about them. */
const pickSchema = z.discriminatedUnion('kind', [...pickSchemas]);
export type Pick = z.infer<typeof pickSchema>;

/** Picks put together: any of, all of, one except another. Nested as needed. */
export type StudentSet =
	| Pick
	| { readonly kind: 'any' | 'all'; readonly of: readonly StudentSet[] }
	| { readonly kind: 'except'; readonly from: StudentSet; readonly minus: StudentSet };

/** Deeper than any sentence a person could read. */
const deepest = 8;

const studentSetSchemaAt = (depth: number): z.ZodType<StudentSet> => {
	if (depth === 0) return pickSchema;
	const inner = z.lazy(() => studentSetSchemaAt(depth - 1));
	return z.discriminatedUnion('kind', [
		...pickSchemas,
		z.object({ kind: z.enum(['any', 'all']), of: z.array(inner).max(50) }),
		z.object({ kind: z.literal('except'), from: inner, minus: inner })
	]);
};
const studentSetSchema = studentSetSchemaAt(deepest);

/**
 * Who is meant, seen from the students of a line. `guardians` are those with custody who are marked
 * to receive correspondence (the usual duty in a school: common practice); `all-guardians` passes
 * over neither custody nor correspondence; `emergency` and `other-contacts` come in only here, by
 * an explicit choice.
 */
const meantSchema = z.discriminatedUnion('kind', [
	z.object({ kind: z.literal('students') }),
	z.object({ kind: z.literal('guardians') }),
	z.object({ kind: z.literal('all-guardians') }),
	/** Adults with this relation who have custody and are marked to receive correspondence. */
	z.object({ kind: z.literal('relation'), relation: z.string().min(1).max(60) }),
	z.object({ kind: z.literal('emergency') }),
	z.object({ kind: z.literal('other-contacts') }),
	/** Everyone who teaches a section that the students are enrolled in, in the terms of the picks. */
	z.object({ kind: z.literal('section-staff') })
]);
export type MeantKind = z.infer<typeof meantSchema>;

const dayInAudience = z.iso.date('A day is written like 2027-03-12.');

/** What is asked of a student's marker. */
const markTestSchema = z.discriminatedUnion('test', [
	z.object({ test: z.enum(['has', 'lacks']) }),
	z.object({ test: z.literal('is'), value: z.string().min(1).max(mostMarkCharacters) }),
	z.object({ test: z.enum(['before', 'from']), day: dayInAudience })
]);

/** How somebody can stand with an invitation. */
export const comingStates = ['comes', 'waits', 'not', 'unsaid'] as const;
export type ComingState = (typeof comingStates)[number];

/** A condition on a person, or on a person and the student they are meant for. All conditions of a line must hold. */
const conditionSchema = z.discriminatedUnion('kind', [
	z.object({
		kind: z.literal('language'),
		tags: z.array(z.string().min(2).max(35)).min(1).max(50)
	}),
	z.object({ kind: z.literal('email'), works: z.boolean() }),
	z.object({ kind: z.literal('text'), optedIn: z.boolean() }),
	/** Lives in a household of the student, or in none of them. */
	z.object({ kind: z.literal('household'), shared: z.boolean() }),
	/** Has read an earlier dispatch, or has not: also when it was never sent to them. */
	z.object({ kind: z.literal('outcome'), dispatchId: idSchema, read: z.boolean() }),
	/** How their household stands with an earlier invitation: they come, stand in line, do not come, or have not answered. */
	z.object({ kind: z.literal('coming'), dispatchId: idSchema, is: z.enum(comingStates) }),
	/** The student has a marker or lacks it; nobody who is meant for themselves has one. */
	z.object({ kind: z.literal('marker'), markerId: idSchema, is: markTestSchema })
]);
export type Condition = z.infer<typeof conditionSchema>;

const verbSchema = z.enum(['and', 'but-not']);
const onlySchema = z.array(conditionSchema).max(10);

/** Students, and who of each is meant. `but-not` takes out what the line comes to: these people for these students. */
const studentLineSchema = z.object({
	verb: verbSchema,
	to: z.array(meantSchema).min(1, 'Choose who is meant: guardians, students or others.').max(7),
	of: studentSetSchema,
	only: onlySchema
});
export type StudentLine = z.infer<typeof studentLineSchema>;

/** People picked for themselves, not by way of a student. */
const peopleSchema = z.discriminatedUnion('kind', [
	/** Staff with any of these roles at any of these schools; an empty list leaves that open. */
	z.object({
		kind: z.literal('staff'),
		roles: z.array(z.string().min(1).max(60)).max(60),
		schoolIds: idsSchema
	}),
	z.object({ kind: z.literal('named'), ids: idsSchema }),
	/** Those who joined these open groups by their codes. */
	z.object({ kind: z.literal('joined'), groupIds: idsSchema }),
	/** A fixed list that was kept: its people, each for the students they were kept with. */
	z.object({ kind: z.literal('list'), keptId: idSchema })
]);
export type People = z.infer<typeof peopleSchema>;

const peopleLineSchema = z.object({
	verb: verbSchema,
	people: peopleSchema,
	only: onlySchema
});
export type PeopleLine = z.infer<typeof peopleLineSchema>;

export type AudienceLine = StudentLine | PeopleLine;

/** A line of either kind. Told by what it has, so that what is wrong is said of its own kind and place, not of both. */
const audienceLineSchema = z.unknown().transform((value, context): AudienceLine => {
	const ofPeople = typeof value === 'object' && value !== null && 'people' in value;
	const read = (ofPeople ? peopleLineSchema : studentLineSchema).safeParse(value);
	if (read.success) return read.data;
	for (const { path, message } of read.error.issues) {
		context.issues.push({ code: 'custom', path, message, input: value });
	}
	return z.NEVER;
});

export const isPeopleLine = (line: AudienceLine): line is PeopleLine => 'people' in line;

/** A single person put in or taken out by hand; it stays whatever the lines come to later. */
const byHandSchema = z.object({
	personId: idSchema,
	way: z.enum(['in', 'out']),
	/** Who did it, and when (instant, ms). */
	by: z.string().max(200),
	at: z.number()
});
export type ByHand = z.infer<typeof byHandSchema>;

/** More than anybody picks, in all lines together: each costs whoever works it out. */
const mostPicks = 20_000;
const mostSets = 400;

const currentSchema = z
	.object({
		version: z.literal(2),
		lines: z.array(audienceLineSchema).max(50, 'An audience holds 50 lines at most.'),
		byHand: z.array(byHandSchema).max(2000, '2,000 people at most are put in or taken out by hand.')
	})
	.superRefine(({ lines }, context) => {
		const say = (message: string) => context.addIssue({ code: 'custom', path: ['lines'], message });
		if (lines.reduce((sum, l) => sum + pickCount(l), 0) > mostPicks) {
			say('An audience holds 20,000 picks at most. Pick schools or grades instead of students.');
		}
		if (lines.reduce((sum, l) => sum + (isPeopleLine(l) ? 1 : setsIn(l.of)), 0) > mostSets) {
			say('An audience is put together from 400 parts at most.');
		}
	});
export type Audience = z.infer<typeof currentSchema>;

/** How many sets a set is put together from, itself among them. */
function setsIn(set: StudentSet): number {
	switch (set.kind) {
		case 'any':
		case 'all':
			return set.of.reduce((sum, s) => sum + setsIn(s), 1);
		case 'except':
			return 1 + setsIn(set.from) + setsIn(set.minus);
		default:
			return 1;
	}
}

/** Version 1 knew sections, guardians and students only. */
const versionOneSchema = z
	.object({
		version: z.literal(1),
		lines: z
			.array(
				z.object({
					to: z.array(z.enum(['guardians', 'students'])).min(1),
					sectionIds: idsSchema
				})
			)
			.max(50)
	})
	.transform(({ lines }): Audience => ({
		version: 2,
		lines: lines.map((line) => ({
			verb: 'and',
			to: line.to.map((kind) => ({ kind })),
			of: { kind: 'sections', ids: line.sectionIds },
			only: []
		})),
		byHand: []
	}));

/** Reads an audience of any version as the present one. */
export const audienceSchema = z.discriminatedUnion('version', [currentSchema, versionOneSchema]);

/** An audience of some sections, or groups, by one line. */
export const audienceOf = (
	ids: readonly number[],
	to: readonly MeantKind['kind'][] = ['guardians'],
	kind: 'sections' | 'groups' = 'sections'
): Audience =>
	currentSchema.parse({
		version: 2,
		lines: [
			{
				verb: 'and',
				to: to.map((kind) => ({ kind })),
				of: { kind, ids },
				only: []
			}
		],
		byHand: []
	});

/** Every pick of a set, whatever it is nested in. */
export function picksIn(set: StudentSet): Pick[] {
	switch (set.kind) {
		case 'any':
		case 'all':
			return set.of.flatMap(picksIn);
		case 'except':
			return [...picksIn(set.from), ...picksIn(set.minus)];
		default:
			return [set];
	}
}

/** How many things are picked in a line: sections, groups, grades, people and so on. */
export function pickCount(line: AudienceLine): number {
	if (!isPeopleLine(line)) {
		return picksIn(line.of).reduce(
			(sum, p) => sum + (p.kind === 'grades' ? p.levels.length : p.ids.length),
			0
		);
	}
	const { people } = line;
	if (people.kind === 'joined') return people.groupIds.length;
	return people.kind === 'named' ? people.ids.length : 1;
}
