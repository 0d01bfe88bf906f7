import type { User } from '$lib/server/access/user';

declare global {
	namespace App {
		interface Locals {
			user: User | null;
		}
		interface Error {
			message: string;
		}
	}
}

export {};
