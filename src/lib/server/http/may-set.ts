import { error } from '@sveltejs/kit';
import { isAllowed } from '../access/may';
import type { User } from '../access/user';
import { services, type Services } from '../services';

/** The services, for whoever may change the settings; the request ends for others. */
export async function setting(user: User): Promise<Services> {
	if (!isAllowed(user, 'settings'))
		error(403, 'The settings are changed by whoever looks after the district.');
	return services();
}
