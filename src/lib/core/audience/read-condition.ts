import { z } from 'zod';
import { mostMarkCharacters, type MarkTest } from '../roster/marker';
import { comingStates, type Condition } from './audience';
import { comingStateWords } from './sentence';
import { NamedWords } from './sentence-names';
import { Stop } from './sentence-words';

const isDay = (text: string) => z.iso.date().safeParse(text).success;

/** Reads what stands behind ", who". */
export class ConditionWords extends NamedWords {
	protected conditions(): Condition[] {
		const conditions: Condition[] = [];
		while (this.takes(', who')) conditions.push(this.#condition());
		return conditions;
	}

	#condition(): Condition {
		if (this.takes('have a working email')) return { kind: 'email', works: true };
		if (this.takes('have no working email')) return { kind: 'email', works: false };
		if (this.takes('opted in to text')) return { kind: 'text', optedIn: true };
		if (this.takes('have not opted in to text')) return { kind: 'text', optedIn: false };
		if (this.takes('live with the student')) return { kind: 'household', shared: true };
		if (this.takes('live elsewhere')) return { kind: 'household', shared: false };
		const is = this.#markTest();
		if (is)
			return { kind: 'marker', markerId: this.one('marker', 'One marker is wanted here.'), is };
		for (const [words, read] of [
			['have read', true],
			['have not read', false]
		] as const) {
			if (!this.takes(words)) continue;
			const dispatchId = this.one('dispatch', 'One dispatch is wanted here.');
			return { kind: 'outcome', dispatchId, read };
		}
		for (const is of comingStates) {
			if (!this.takes(comingStateWords[is])) continue;
			const dispatchId = this.one('dispatch', 'One invitation is wanted here.');
			return { kind: 'coming', dispatchId, is };
		}
		if (this.takes('read')) {
			const at = this.at;
			const tags: string[] = [];
			do {
				const word = this.name();
				const tag = this.names.languageTag(word);
				if (tag === undefined) throw new Stop(at, `"${word}" is no language of anyone here.`);
				tags.push(tag);
			} while (this.takesComma() || this.takes('and'));
			return { kind: 'language', tags };
		}
		return this.stop(
			'After "who" comes "read" and a language, "have a working email", "opted in to text", "live with the student", "lack the marker" and its name, "have not read" and a dispatch, or "come to" and an invitation'
		);
	}

	/** What is asked of a marker, up to its name; undefined where none is asked about. */
	#markTest(): MarkTest | undefined {
		if (this.takes('have the marker')) return { test: 'has' };
		if (this.takes('lack the marker')) return { test: 'lacks' };
		for (const test of ['before', 'from'] as const) {
			if (!this.takes(`have a day ${test}`)) continue;
			this.space();
			const day = /^\d{4}-\d\d-\d\d(?!\d)/.exec(this.text.slice(this.at))?.[0];
			if (day === undefined || !isDay(day)) this.stop('Here a day like 2027-03-12 is wanted');
			this.at += day!.length;
			this.wants('in the marker');
			return { test, day: day! };
		}
		const before = this.at;
		if (!this.takes('have')) return undefined;
		this.space();
		if (!/["“”]/.test(this.text[this.at] ?? '')) {
			this.at = before;
			return undefined;
		}
		const at = this.at;
		const value = this.name();
		if (value === '' || value.length > mostMarkCharacters)
			throw new Stop(at, `Between the quotes stand 1 to ${mostMarkCharacters} characters.`);
		this.wants('in the marker');
		return { test: 'is', value };
	}
}
