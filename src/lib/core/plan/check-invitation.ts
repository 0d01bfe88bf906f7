import { count } from '../copy/count';
import type { ClockStyle } from '../copy/clock-style';
import type { Invitation } from '../talk/invitation-schema';
import type { Timing } from '../time/timing';
import { dayTime } from '../time/zone';
import { block, caution, type Check } from './check';

/** What is looked at of what a sheet asks. */
export interface InvitationInput {
	readonly invitation: Invitation;
	/** Whether the earlier dispatch that it is about is there for whoever writes, and still asks; null where it is about none. */
	readonly about: 'asks' | 'over' | 'gone' | null;
	readonly when: Timing['when']['kind'];
	/** Whether its words come from a feed. */
	readonly feed: boolean;
	/** Whether it goes by no way, and only stands on boards. */
	readonly standsOnly: boolean;
	/** How many people are written to. */
	readonly people: number;
	/** When it leaves, and now (instants, ms). */
	readonly leavesAt: number;
	readonly now: number;
	readonly zone: string;
	readonly style?: ClockStyle;
}

const stop = (text: string) => block('invitation', text);
const look = (text: string) => caution('invitation', text);

/** All places there are; null where there are as many as come. */
const placesIn = ({ places, slots }: Extract<Invitation, { kind: 'asks' }>): number | null => {
	const inSlots =
		slots.length === 0 || slots.some((s) => s.places === null)
			? null
			: slots.reduce((sum, s) => sum + s.places!, 0);
	return inSlots === null ? places : Math.min(inSlots, places ?? inSlots);
};

/** What the standing check says of an invitation. */
export function invitationChecks(input: InvitationInput): Check[] {
	const { invitation, about, when, feed, standsOnly, people, leavesAt, now, zone, style } = input;
	if (invitation === null) return [];
	if (invitation.kind === 'about') {
		if (when === 'gain' || feed)
			return [stop('What leaves by itself asks about no invitation. Let it leave at a time.')];
		if (about === 'gone')
			return [
				stop('The invitation that its answers go to is not there, or not yours. Take it out.')
			];
		return about === 'over'
			? [look('The invitation it is about can be answered no longer: it asks nothing any more.')]
			: [];
	}
	const { until, slots } = invitation;
	const said = (at: number) => dayTime(at, zone, now, style);
	const checks: Check[] = [];
	if (when !== 'now' && when !== 'at')
		checks.push(
			stop('An invitation leaves once, so that there is one list of who comes: now, or at a time.')
		);
	if (standsOnly && !invitation.anybody)
		checks.push(stop('Nobody is asked: it goes to nobody, and not anybody may answer it.'));
	if (until === null) checks.push(stop('It is not said until when it can be answered. Say it.'));
	else if (until <= leavesAt)
		checks.push(
			stop(`It could be answered until ${said(until)}, and leaves later. Give it more time.`)
		);
	const bare = slots.filter((s) => s.at === null && s.words.trim() === '').length;
	if (bare > 0)
		checks.push(
			stop(
				`${bare === 1 ? 'A time' : `${count(bare)} times`} to choose from ${bare === 1 ? 'says' : 'say'} neither when nor what. Say it, or take ${bare === 1 ? 'it' : 'them'} out.`
			)
		);
	const keys = slots.map((s) => `${s.at ?? ''} ${s.words.trim()}`);
	if (bare === 0 && new Set(keys).size < keys.length)
		checks.push(stop('Two of the times to choose from are the same. Change one, or take it out.'));
	const past = slots.filter((s) => s.at !== null && s.at <= leavesAt).length;
	if (past > 0)
		checks.push(
			stop(`${past === 1 ? 'A time' : `${count(past)} times`} to choose from would be past.`)
		);
	const early = until === null ? [] : slots.filter((s) => s.at !== null && s.at < until);
	if (early.length > 0 && past === 0)
		checks.push(
			look(
				`It can still be answered when the first time to choose from, ${said(Math.min(...early.map((s) => s.at!)))}, has begun.`
			)
		);
	const places = placesIn(invitation);
	if (places !== null && people > places)
		checks.push(
			look(
				`There ${places === 1 ? 'is' : 'are'} ${count(places)} ${places === 1 ? 'place' : 'places'} for ${count(people)} people: whoever comes later stands in line.`
			)
		);
	return checks;
}
