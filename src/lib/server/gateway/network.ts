/** Why a provider does not answer, in plain words. */
export function plainNetwork(error: {
	code?: string;
	originalCode?: string;
	message: string;
}): string {
	const codes = `${error.originalCode ?? ''} ${error.code ?? ''}`;
	if (/CERT|SELF_SIGNED|UNABLE_TO_VERIFY|ALTNAME|ERR_TLS/.test(codes)) {
		return 'its certificate cannot be trusted';
	}
	if (/ECONNREFUSED|EHOSTUNREACH|ENETUNREACH/.test(codes)) return 'nothing answers at its address';
	if (/ENOTFOUND|EDNS|EAI_AGAIN/.test(codes)) return 'its address is not known';
	if (/ETIMEDOUT/.test(codes)) return 'it does not answer in time';
	if (/EPROTOCOL/.test(codes)) return 'it did not greet us as it should';
	if (/ETLS/.test(codes)) return 'no safe connection to it can be made';
	return 'the connection to it was lost';
}

/** Whether a provider is on this machine: it may have a certificate of its own. */
export const isLoopback = (url: string): boolean => {
	const { hostname } = new URL(url);
	return /^(localhost|127(\.\d{1,3}){3}|\[::1\])$/.test(hostname);
};
