/** A mail address that can be used, or why it cannot be. */
export type MailAddress =
	| {
			readonly ok: true;
			/** As it is written to: without white space around it. */
			readonly value: string;
			/** Two spellings of one mailbox have the same key. */
			readonly key: string;
	  }
	| { readonly ok: false; readonly why: string };

/** Octets in UTF-8; the limits of RFC 5321 are in octets. */
const octets = (text: string): number => new TextEncoder().encode(text).length;

/** atext (RFC 5322, 3.2.3) and anything beyond ASCII (RFC 6531, 3.3). */
const atom = /^[A-Za-z0-9!#$%&'*+/=?^_`{|}~\u0080-\u{10ffff}-]+$/u;
/** Quoted-string as SMTP has it: qtextSMTP and quoted-pairSMTP (RFC 5321, 4.1.2; RFC 6531, 3.3). */
const quoted = /^"(?:[ !#-[\]-~\u0080-\u{10ffff}]|\\[ -~])*"$/u;
/** What most addresses look like; they need no closer look. */
const everyday =
	/^[A-Za-z0-9_+-]+(?:\.[A-Za-z0-9_+-]+)*@(?:[A-Za-z0-9](?:[A-Za-z0-9-]{0,61}[A-Za-z0-9])?\.)+[A-Za-z]{2,63}$/;
/** Control and format signs, which no mailbox carries but a paste may bring. */
const invisible = /[\p{Cc}\p{Cf}\p{Zl}\p{Zp}]/u;

/**
 * Checks an address as a school office types it, and gives the key by which two spellings of one
 * mailbox are the same. Syntax of Mailbox in RFC 5321 section 4.1.2 with its limits (4.5.3.1),
 * internationalised by RFC 6531 section 3.3. Comments and folding white space of RFC 5322 are for
 * header fields and no part of an address; they are refused, and so are address literals: no family
 * has its mailbox there. The local part is in theory case-sensitive (RFC 5321, 2.4); in practice no
 * school mailbox is, so the key is in small letters (common practice).
 */
export function checkMailAddress(text: string): MailAddress {
	const value = text.trim();
	const no = (why: string): MailAddress => ({ ok: false, why });
	if (value.length <= 254 && value.indexOf('@') <= 64 && everyday.test(value)) {
		return { ok: true, value, key: value.toLowerCase() };
	}
	if (value === '') return no('it is empty');
	if (invisible.test(value)) return no('it holds an invisible sign');
	const at = value.lastIndexOf('@');
	if (at < 0) return no('it has no @');
	const local = value.slice(0, at);
	const domain = value.slice(at + 1);
	if (local === '') return no('nothing stands before the @');
	if (domain === '') return no('nothing stands after the @');
	if (octets(local) > 64) return no('what stands before the @ is over 64 octets');
	if (octets(value) > 254) return no('it is over 254 octets');
	if (local.startsWith('"')) {
		if (!quoted.test(local)) return no('the quotes before the @ are not closed as they should be');
	} else {
		if (/\s/u.test(value)) return no('it holds a space');
		if (local.split('.').some((part) => part === '')) {
			return no('a full stop stands first, last or twice before the @');
		}
		if (!local.split('.').every((part) => atom.test(part))) {
			const bad = [...local].find((c) => c !== '.' && !atom.test(c));
			return no(`"${bad}" cannot stand before the @`);
		}
	}
	if (domain.startsWith('[')) return no('it ends in a machine’s number, not in a domain');
	const ascii = domainKey(domain);
	if (ascii === null) return no(`"${domain}" is no domain`);
	return { ok: true, value, key: `${local.toLowerCase().normalize('NFC')}@${ascii}` };
}

/** A domain in its ASCII form (RFC 5890 A-labels), or null if it is none: at least two labels of 1 to 63 letters, digits and hyphens, 255 octets at most (RFC 1035, 2.3.4; RFC 5321, 4.1.2). */
function domainKey(domain: string): string | null {
	// A URL's host takes more than a mail domain does: ports, paths and numbers must not slip in.
	if (/[\s/\\?#@:%[\]_]/u.test(domain) || domain.endsWith('.')) return null;
	let host: string;
	try {
		host = new URL(`http://${domain}`).hostname;
	} catch {
		return null;
	}
	const labels = host.split('.');
	const fits = (label: string) => /^[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?$/.test(label);
	const last = labels.at(-1)!;
	if (host.length > 255 || labels.length < 2 || !labels.every(fits) || /^\d+$/.test(last)) {
		return null;
	}
	return host;
}

/** What is the same for every spelling of one mailbox; of what is no address, its letters in small. */
export function mailKey(text: string): string {
	const read = checkMailAddress(text);
	return read.ok ? read.key : text.trim().toLowerCase();
}
