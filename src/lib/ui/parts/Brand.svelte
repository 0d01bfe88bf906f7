<span class="brand">
	<svg
		width="30"
		height="20"
		viewBox="0 0 30 20"
		fill="none"
		stroke="var(--action)"
		stroke-width="1.6"
		aria-hidden="true"
	>
		<circle cx="6" cy="14" r="4.6" />
		<circle cx="24" cy="14" r="4.6" />
		<path d="M6 14l5-8h9l4 8M11 6l4 8H6M15 14l5-8M20 6l-1-3h3M9 6h4" />
	</svg>
	Idle Courier
</span>

<style>
	.brand {
		display: inline-flex;
		gap: 10px;
		align-items: center;
		font-weight: 750;
		font-size: 16px;
		white-space: nowrap;
	}
</style>
