import { messageId } from '../../access/tokens';
import type { DeliveryRow } from '../../db/models/delivery';

/** As what a copy went by email: as a letter of its own, or in one with others. */
export interface SentAs extends Pick<DeliveryRow, 'nonce' | 'digestId'> {
	readonly digestNonce: string | null;
}

/** The columns of {@link SentAs}, for SQL that reads `delivery`. */
export const sentAs = `delivery.nonce, delivery.digest_id AS digestId,
	(SELECT digest.nonce FROM digest WHERE digest.id = delivery.digest_id) AS digestNonce`;

/** Message-ID of the email that a copy went in (RFC 5322 section 3.6.4). */
export const messageIdOf = (
	key: Buffer,
	{ id, nonce, digestId, digestNonce }: SentAs & { readonly id: number },
	domain: string
): string =>
	digestId !== null && digestNonce !== null
		? messageId(key, 'digest', { id: digestId, nonce: digestNonce }, domain)
		: messageId(key, 'return', { id, nonce }, domain);
