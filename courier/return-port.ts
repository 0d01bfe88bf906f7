import type { SMTPServer } from 'smtp-server';
import { takesWords } from '../src/lib/server/access/tokens';
import { addresseesOf } from '../src/lib/server/access/return-address';
import type { Db } from '../src/lib/server/db/open';
import { returnMailServer } from '../src/lib/server/gateway/return-mail';
import { takesJoining } from '../src/lib/server/desk/joining/by-mail';
import type { Settings } from '../src/lib/server/settings';
import type { ComingIn } from './coming-in';
import { grouped } from './grouped';

/** Opens the port at which returned mail and answers come in. Rejects, with what to do, where it is taken. */
export async function openReturnPort(
	db: Db,
	key: Buffer,
	settings: Settings,
	{ returned, readMail }: ComingIn
): Promise<SMTPServer> {
	// Those that are asked for while others are looked up are looked up together.
	const addressees = grouped((addresses: readonly string[]) => addresseesOf(db, key, addresses));
	const server = returnMailServer(
		async (address) => (await addressees(address)) !== null || (await takesJoining(db, address)),
		returned,
		{ read: readMail, takesFiles: takesWords }
	);
	await new Promise<void>((resolve, reject) => {
		server.once('error', (error: NodeJS.ErrnoException) =>
			reject(
				error.code === 'EADDRINUSE'
					? new Error(
							`port ${settings.returnPort} is taken, so returned mail cannot come in: free it, or set IDLE_COURIER_RETURN_PORT`
						)
					: error
			)
		);
		server.listen(settings.returnPort, settings.returnHost, () => {
			server.removeAllListeners('error');
			// A client that hangs up in the middle is the client's affair.
			server.on('error', () => {});
			resolve();
		});
	});
	return server;
}
