/** Where reading stopped, and why. */
export class Stop extends Error {
	constructor(
		readonly at: number,
		readonly why: string
	) {
		super(why);
	}
}

/** The words of a sentence, taken off one after another. */
export class SentenceWords {
	protected at = 0;
	constructor(readonly text: string) {}

	/** A comma that goes on with the list; not one that ends a clause. */
	protected takesComma(): boolean {
		const before = this.at;
		if (!this.takes(',')) return false;
		for (const word of ['and', 'but', 'who', 'with', 'without', 'in']) {
			if (this.peeks(word)) {
				this.at = before;
				return false;
			}
		}
		return true;
	}

	protected name(): string {
		this.space();
		const quote = /^["“”]/.exec(this.text.slice(this.at));
		if (quote) {
			const start = this.at;
			let name = '';
			for (this.at += 1; this.at < this.text.length; this.at += 1) {
				const sign = this.text[this.at]!;
				if (!/["“”]/.test(sign) || (quote[0] === '"' && sign !== '"')) {
					name += sign;
					continue;
				}
				if (sign === '"' && this.text[this.at + 1] === '"') {
					name += '"';
					this.at += 1;
					continue;
				}
				this.at += 1;
				return name;
			}
			throw new Stop(start, 'These quotes are never closed.');
		}
		const end = /[,;()]|\s+(?:and|in|at|by|of)(?=\s|$)|\.?\s*$/i.exec(this.text.slice(this.at))!;
		const name = this.text
			.slice(this.at, this.at + end.index)
			.trim()
			.replace(/\s+/g, ' ');
		if (name === '') this.stop('A name is wanted here');
		this.at += end.index;
		return name;
	}

	/** The parts of what stands in brackets; none where there are none. */
	protected brackets(): string[] {
		if (!this.takes('(')) return [];
		const parts: string[] = [];
		do {
			this.space();
			if (/["“”]/.test(this.text[this.at] ?? '')) {
				parts.push(this.name());
				continue;
			}
			const end = /[,)]/.exec(this.text.slice(this.at));
			if (!end) this.stop('This bracket is never closed');
			parts.push(this.text.slice(this.at, this.at + end!.index).trim());
			this.at += end!.index;
		} while (this.takes(','));
		this.wants(')');
		return parts.filter(Boolean);
	}

	protected space(): void {
		while (/\s/.test(this.text[this.at] ?? '')) this.at += 1;
	}

	protected atEnd(): boolean {
		this.space();
		if (this.text.slice(this.at).trim() === '.') this.at = this.text.length;
		return this.at >= this.text.length;
	}

	protected end(): void {
		if (!this.atEnd()) this.stop('Nothing more is wanted here');
	}

	private peeks(words: string): boolean {
		const before = this.at;
		const yes = this.takes(words);
		this.at = before;
		return yes;
	}

	/** Takes these words if they stand next, whatever their capitals and the space between them. */
	protected takes(words: string): boolean {
		let at = this.at;
		for (const part of words.match(/[A-Za-z-]+|[^\sA-Za-z]/g)!) {
			while (/\s/.test(this.text[at] ?? '')) at += 1;
			if (this.text.slice(at, at + part.length).toLowerCase() !== part) return false;
			at += part.length;
			if (/[A-Za-z]/.test(part) && /[\p{L}\p{N}]/u.test(this.text[at] ?? '')) return false;
		}
		this.at = at;
		return true;
	}

	protected wants(words: string): void {
		if (!this.takes(words)) this.stop(`Here "${words}" is wanted`);
	}

	protected stop(why: string): never {
		this.space();
		const next = this.text.slice(this.at, this.at + 24).trim();
		throw new Stop(this.at, next ? `${why}, before "${next}".` : `${why}, at the end.`);
	}
}
