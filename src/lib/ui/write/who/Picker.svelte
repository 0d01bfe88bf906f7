<script lang="ts">
	import { untrack } from 'svelte';
	import { dayTime } from '../../parts/clock';
	import type { Choice, Choices } from '$lib/server/desk/audience/types';
	import Choose from '../../parts/Choose.svelte';
	import FindPerson from '../../parts/FindPerson.svelte';
	import type { Line, PickKind } from '../sheet/line.svelte';
	import PeoplePicker from './PeoplePicker.svelte';
	import PickList from './PickList.svelte';

	/** What the line at hand can pick from: students by one fact about them, or people for themselves. */
	let {
		line,
		choices,
		zone,
		onname
	}: {
		line: Line;
		choices: Choices;
		zone: string;
		/** Hands over the name of somebody who was found, so that it can be shown before the server says it. */
		onname: (id: number, name: string) => void;
	} = $props();

	let kind = $state<PickKind>('sections');
	/** The terms that run: a semester and the year around it are shown together. */
	const running = $derived(choices.terms.filter((t) => t.current));
	const together = 0;
	let chosenTerm = $state(
		untrack(() => (running.length > 1 ? together : (running[0]?.id ?? choices.terms[0]?.id ?? 0)))
	);
	/** Courses are picked in one term. */
	const termId = $derived(
		chosenTerm === together && kind === 'courses' ? (running[0]?.id ?? 0) : chosenTerm
	);
	const termsShown = $derived(termId === together ? running.map((t) => t.id) : [termId]);
	const termWords = $derived(
		choices.terms
			.filter((t) => termsShown.includes(t.id))
			.map((t) => t.name)
			.join(' and ')
	);
	let schoolId = $state(0);
	let courseId = $state(0);
	let teacher = $state('');

	const kinds: { value: PickKind; text: string }[] = $derived(
		(
			[
				{ value: 'sections', text: 'sections' },
				{ value: 'courses', text: 'whole courses' },
				{ value: 'groups', text: 'groups' },
				{ value: 'grades', text: 'grade levels' },
				{ value: 'schools', text: 'schools' },
				{ value: 'terms', text: 'whole terms' },
				{ value: 'students', text: 'students by name' },
				{ value: 'uncovered', text: 'not covered by an earlier one' }
			] as const
		).filter(
			(k) =>
				k.value === 'sections' ||
				k.value === 'students' ||
				(k.value === 'uncovered' && choices.dispatches.length > 0) ||
				(k.value === 'courses' && Object.keys(choices.courses).length > 0) ||
				(k.value === 'terms' && choices.wholeTerms.length > 0) ||
				((k.value === 'groups' || k.value === 'grades' || k.value === 'schools') &&
					choices[k.value].length > 0)
		)
	);
	const named = (rows: readonly { id: number; name: string }[]) =>
		rows.map((r) => ({ value: r.id, text: r.name }));
	const ofTerm = $derived(termsShown.flatMap((id) => choices.sections[id] ?? []));
	const schoolsHere = $derived(
		choices.schools.filter((s) => ofTerm.some((c) => c.schoolId === s.id))
	);
	const inSchool = $derived(ofTerm.filter((c) => schoolId === 0 || c.schoolId === schoolId));
	const courseNames = $derived(
		new Map(termsShown.flatMap((id) => choices.courses[id] ?? []).map((c) => [c.id, c.name]))
	);
	const coursesHere = $derived(
		[...new Set(inSchool.map((c) => c.courseId))]
			.map((id) => ({ id, name: courseNames.get(id) ?? '' }))
			.sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }))
	);
	const teachersHere = $derived(
		[...new Set(inSchool.map((c) => c.teachers))].filter(Boolean).sort()
	);
	const sections = $derived(
		inSchool.filter(
			(c) => (courseId === 0 || c.courseId === courseId) && (!teacher || c.teachers === teacher)
		)
	);
	/** In a long list the filters stand open. */
	let narrowed = $state(untrack(() => ofTerm.length > 100));
	const filters = $derived(
		[
			choices.schools.find((s) => s.id === schoolId)?.name,
			courseNames.get(courseId),
			teacher
		].filter((f): f is string => !!f)
	);
	const gradeIds = $derived(new Map(choices.grades.map((g) => [g.name, g.id])));
	const gradeChoices = $derived(choices.grades.map((g) => ({ ...g, name: `Grade ${g.name}` })));
	const gradeOfId = $derived(new Map(choices.grades.map((g) => [g.id, g.name])));
	const dispatchChoices = $derived(
		choices.dispatches.map((d): Choice => ({
			id: d.id,
			name: d.subject,
			note: `left ${dayTime(d.leftAt, zone)}`,
			students: 0
		}))
	);
</script>

{#if line.people}
	<PeoplePicker {line} {choices} {onname} />
{:else if choices.terms.length + choices.schools.length === 0}
	<p class="small">Nobody is here yet. <a href="/people/rosters">Bring a roster</a> first.</p>
{:else}
	<div class="from">
		<div class="filters">
			<Choose
				hideLabel
				label="Pick"
				options={kinds}
				value={kind}
				onchoose={(chosen) => (kind = chosen)}
			/>
			{#if choices.terms.length > 0 && (kind === 'sections' || kind === 'courses')}
				<Choose
					hideLabel
					label="Term"
					options={[
						...(kind === 'sections' && running.length > 1
							? [{ value: together, text: running.map((t) => t.name).join(' and ') }]
							: []),
						...named(choices.terms)
					]}
					value={termId}
					onchoose={(id) => (chosenTerm = id)}
				/>
			{/if}
		</div>
		{#if kind === 'sections' && ofTerm.length > 20}
			<details class="narrow" bind:open={narrowed}>
				<summary class="small"
					>{filters.length === 0
						? 'by school, course or teacher'
						: `only ${filters.join(', ')}`}</summary
				>
				<div class="filters">
					{#if schoolsHere.length > 1}
						<Choose
							hideLabel
							label="School"
							options={[{ value: 0, text: 'all schools' }, ...named(schoolsHere)]}
							value={schoolId}
							onchoose={(id) => {
								schoolId = id;
								courseId = 0;
								teacher = '';
							}}
						/>
					{/if}
					<Choose
						hideLabel
						label="Course"
						options={[{ value: 0, text: 'all courses' }, ...named(coursesHere)]}
						value={courseId}
						onchoose={(id) => (courseId = id)}
					/>
					<Choose
						hideLabel
						label="Teacher"
						options={[
							{ value: '', text: 'all teachers' },
							...teachersHere.map((t) => ({ value: t, text: t }))
						]}
						value={teacher}
						onchoose={(name) => (teacher = name)}
					/>
				</div>
			</details>
		{/if}
		{#if kind === 'sections'}
			<PickList
				choices={sections}
				all={ofTerm.length}
				bind:picked={line.picks.sections}
				what={['sections', termWords].filter(Boolean).join(', ')}
			/>
		{:else if kind === 'courses'}
			<PickList
				choices={choices.courses[termId] ?? []}
				bind:picked={() => line.coursesIn(termId), (ids) => line.setCourses(termId, ids)}
				what={['courses', termWords].filter(Boolean).join(', ')}
				hint="Course or school"
			/>
		{:else if kind === 'grades'}
			<PickList
				choices={gradeChoices}
				bind:picked={
					() => line.picks.grades.flatMap((g) => gradeIds.get(g) ?? []),
					(ids) => (line.picks.grades = ids.flatMap((id) => gradeOfId.get(id) ?? []))
				}
				what="grade levels"
				hint="Grade"
			/>
		{:else if kind === 'terms'}
			<PickList
				choices={choices.wholeTerms}
				bind:picked={line.picks.terms}
				what="terms"
				hint="Term"
			/>
		{:else if kind === 'uncovered'}
			<PickList
				choices={dispatchChoices}
				bind:picked={line.picks.uncovered}
				what="earlier dispatches"
				hint="Subject or day"
			/>
		{:else if kind === 'students'}
			<FindPerson
				label="Add a student"
				among="students"
				onfound={(p) => {
					onname(p.personId, p.name);
					if (!line.picks.students.includes(p.personId))
						line.picks.students = [...line.picks.students, p.personId];
				}}
			/>
		{:else}
			<PickList
				choices={choices[kind]}
				bind:picked={line.picks[kind]}
				what={kind}
				hint={kind === 'groups' ? 'Name or kind' : 'Name'}
			/>
		{/if}
	</div>
{/if}

<style>
	.from {
		display: grid;
		grid-template-rows: auto minmax(0, 1fr);
		gap: 6px;
		min-height: 0;
		border-top: 1px solid var(--line);
		padding-top: 8px;
	}
	.from:has(.narrow) {
		grid-template-rows: auto auto minmax(0, 1fr);
	}
	.filters {
		display: grid;
		grid-template-columns: minmax(0, 5fr) minmax(0, 7fr);
		gap: 6px;
	}
	.filters :global(.bx--form-item:only-child),
	.filters :global(.bx--form-item:nth-child(3)) {
		grid-column: 1 / 3;
	}
	summary {
		cursor: pointer;
	}
	.narrow .filters {
		margin-top: 6px;
	}
	.filters :global(.bx--select-input) {
		padding: 0 28px 0 10px;
		font-size: 13px;
	}
	.filters :global(.bx--select__arrow) {
		right: 8px;
	}
</style>
