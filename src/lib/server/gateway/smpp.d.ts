/** The part of the smpp package that is used here; it ships no types of its own. */
declare module 'smpp' {
	import type { EventEmitter } from 'node:events';
	import type { Server as NetServer } from 'node:net';

	export interface Pdu {
		command: string;
		command_status: number;
		sequence_number: number;
		message_id?: string;
		source_addr?: string;
		destination_addr?: string;
		data_coding?: number;
		esm_class?: number;
		user_message_reference?: number;
		receipted_message_id?: string;
		message_state?: number;
		system_id?: string;
		password?: string;
		sar_msg_ref_num?: number;
		sar_total_segments?: number;
		sar_segment_seqnum?: number;
		short_message?: { message?: string | Buffer; udh?: readonly Buffer[] } | Buffer | string;
		message_payload?: { message?: string | Buffer } | Buffer | string;
		response(options?: Record<string, unknown>): Pdu;
	}

	export interface Session extends EventEmitter {
		send(pdu: Pdu, onResponse?: (pdu: Pdu) => void): boolean;
		close(done?: () => void): void;
		destroy(done?: () => void): void;
		bind_transceiver(options: Record<string, unknown>, onResponse: (pdu: Pdu) => void): boolean;
		submit_sm(options: Record<string, unknown>, onResponse: (pdu: Pdu) => void): boolean;
		deliver_sm(options: Record<string, unknown>, onResponse: (pdu: Pdu) => void): boolean;
		unbind(onResponse: (pdu: Pdu) => void): boolean;
		enquire_link(onResponse?: (pdu: Pdu) => void): boolean;
		on(event: string, listener: (pdu: Pdu) => void): this;
		on(event: 'error', listener: (error: Error & { code?: string }) => void): this;
	}

	interface Smpp {
		connect(options: Record<string, unknown>): Session;
		createServer(listener: (session: Session) => void): NetServer;
		ESME_ROK: number;
	}
	const smpp: Smpp;
	export default smpp;
}
