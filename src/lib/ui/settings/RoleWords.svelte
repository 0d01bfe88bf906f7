<script lang="ts">
	import { dayName } from '$lib/core/time/zone';
	import type { RoleLine } from '$lib/server/desk/work/types';

	/** A role in words: "Teacher, Homeroom 4-A, from Mar 9 until Mar 20". */
	let { line, zone }: { line: RoleLine; zone: string } = $props();
</script>

<span class:quiet={line.state === 'over'}
	>{line.name}, {line.place}{line.state === 'coming'
		? `, from ${dayName(line.startsAt, zone)}`
		: ''}{line.endsAt !== null
		? line.state === 'over'
			? `, ended ${dayName(line.endsAt, zone)}`
			: `, until ${dayName(line.endsAt - 1, zone)}`
		: ''}</span
>
