/** "5 min", "2 h", "3 days": a stretch of minutes in its nearest usual unit. */
export function stretchWords(minutes: number): string {
	if (minutes < 90) return `${Math.max(1, Math.round(minutes))} min`;
	if (minutes < 36 * 60) return `${Math.round(minutes / 60)} h`;
	return `${Math.round(minutes / 1440)} days`;
}
