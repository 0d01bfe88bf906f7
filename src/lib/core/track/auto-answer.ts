/**
 * Why a mail is no answer of a person, in plain words, or null. Marks of automatic mail: the
 * Auto-Submitted field (RFC 3834 section 5), the empty return path (section 2), lists and bulk mail
 * (List-Id, RFC 2919; Precedence, common practice), reports (RFC 6522), and what common mail systems
 * put into their own absence notes (common practice).
 */
export function notByAPerson(
	header: (name: string) => string,
	returnPath: string | null
): string | null {
	const auto = header('auto-submitted').split(';')[0]!.trim().toLowerCase();
	if (auto !== '' && auto !== 'no') return 'an automatic answer';
	if (returnPath === '') return 'mail from a mail system';
	if (/^multipart\/report\b/i.test(header('content-type').trim())) return 'a report';
	if (header('list-id') !== '') return 'mail of a mailing list';
	if (/^(bulk|list|junk|auto_reply)$/i.test(header('precedence').trim())) return 'bulk mail';
	if (/\S/.test(header('x-autoreply') + header('x-autorespond'))) return 'an automatic answer';
	return null;
}
