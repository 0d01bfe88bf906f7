import type { House } from './house';
import { proof as proofs } from '../src/lib/server/db/models/dispatch';
import type { WayOut } from '../src/lib/core/roster/way';
import { addressFor, messageId, textReference } from '../src/lib/server/access/tokens';
import { now } from '../src/lib/server/clock';
import type { District } from '../src/lib/server/db/district';
import { readStored } from '../src/lib/server/desk/sheet/letters';
import { sentProofSchema } from '../src/lib/server/desk/sheet/sent-proof';
import type { Outcome } from '../src/lib/server/gateway/outcome';
import { letterParts } from './letter-parts';
import type { ProofRow } from '../src/lib/server/db/models/dispatch';

/** Sends the proofs that wait, to their writers. One that a provider cannot take now waits on; one that fails says why. */
export async function sendProofs(
	{ db, settings, key, mail, text }: House,
	district: District
): Promise<void> {
	const waiting = await db.all<
		Pick<ProofRow, 'id' | 'nonce' | 'letter'> & { way: WayOut; address: string; writer: string }
	>(
		`SELECT proof.id, nonce, way, address, given_name || ' ' || family_name AS writer, letter
		FROM proof JOIN person ON person.id = user_id WHERE state = 'waiting' AND way != 'inbox'
		ORDER BY proof.id LIMIT 20`
	);
	for (const { id, nonce, way, address, writer, letter: json } of waiting) {
		const letter = sentProofSchema.parse(JSON.parse(json));
		let outcome: Outcome;
		if (way === 'text') {
			outcome = await text.send({
				to: address,
				from: district.textFrom,
				text: letter.text,
				reference: textReference(nonce)
			});
		} else {
			const stored = await readStored(db, [...letter.pictureIds, ...letter.attachedIds]);
			const parts = await letterParts(
				settings.dataFolder,
				{
					attached: stored.filter((f) => letter.attachedIds.includes(f.id)),
					pictures: new Map(stored.map((f) => [f.id, f])),
					logoId: district.letterhead.logo?.fileId ?? null
				},
				letter
			);
			outcome = await mail.send({
				messageId: messageId(key, 'proof', { id, nonce }, settings.returnDomain),
				date: new Date(await now(db)),
				from: { name: letter.fromName, address: district.mailFrom },
				replyTo: letter.replyTo === null ? null : { name: '', address: letter.replyTo },
				to: { name: writer, address },
				returnAddress: addressFor(key, 'proof', { id, nonce }, settings.returnDomain),
				subject: letter.subject,
				html: letter.html,
				text: letter.text,
				language: letter.language,
				stopLink: null,
				...parts
			});
		}
		if (outcome.kind === 'unavailable') return;
		await db.rows(proofs).change(
			{ id },
			{
				state: outcome.kind === 'accepted' ? 'sent' : 'failed',
				detail:
					outcome.kind === 'unanswered'
						? `It was handed over, and then ${outcome.why}: it may have arrived.`
						: outcome.detail
			}
		);
	}
}
