/** Who wrote, as it stands under every copy. */
export interface Signature {
	readonly name: string;
	/** "Communications, Brackwater Isles School District". */
	readonly line: string;
}
