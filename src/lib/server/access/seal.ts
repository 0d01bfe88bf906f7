import { createCipheriv, createDecipheriv, hkdfSync, randomBytes } from 'node:crypto';

/** AES-256-GCM (NIST SP 800-38D) under a key made from the link key for one purpose (HKDF, RFC 5869). */
const keyFor = (key: Buffer, purpose: string): Buffer =>
	Buffer.from(hkdfSync('sha256', key, Buffer.alloc(0), `sealed ${purpose}`, 32));

/** Seals a text: whoever has the database alone cannot read it, and whoever has it for one purpose cannot use it for another. */
export function seal(key: Buffer, purpose: string, text: string): string {
	const iv = randomBytes(12);
	const cipher = createCipheriv('aes-256-gcm', keyFor(key, purpose), iv);
	const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
	return Buffer.concat([iv, cipher.getAuthTag(), sealed]).toString('base64url');
}

/** What {@link seal} has sealed; null where it was sealed under another key or for another purpose, or was changed. */
export function unseal(key: Buffer, purpose: string, sealed: string): string | null {
	const octets = Buffer.from(sealed, 'base64url');
	if (octets.length < 28) return null;
	try {
		const decipher = createDecipheriv('aes-256-gcm', keyFor(key, purpose), octets.subarray(0, 12));
		decipher.setAuthTag(octets.subarray(12, 28));
		return Buffer.concat([decipher.update(octets.subarray(28)), decipher.final()]).toString('utf8');
	} catch {
		return null;
	}
}
