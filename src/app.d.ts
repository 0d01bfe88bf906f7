import type { User } from '$lib/server/access/user';

declare global {
	namespace App {
		interface Locals {
			user: User | null;
			/** The number of the session it came in. */
			sessionId: number | null;
		}
		interface Error {
			message: string;
		}
	}
}

export {};
