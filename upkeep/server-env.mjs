/** What the web server's framework is told by its environment, made of our own settings. Plain Node: it runs before anything else. */

/** The environment of every process, for a place that is reached at `url` and listens at `port`. */
export function serverEnv(env, { url, port, host }) {
	return {
		...env,
		NODE_ENV: 'production',
		// Passwords are hashed beside what the database does.
		UV_THREADPOOL_SIZE: env.UV_THREADPOOL_SIZE ?? '8',
		PORT: String(port),
		HOST: host,
		ORIGIN: url,
		// The largest file a sheet may take with it, and its form.
		BODY_SIZE_LIMIT: env.BODY_SIZE_LIMIT ?? '24M',
		SHUTDOWN_TIMEOUT: env.SHUTDOWN_TIMEOUT ?? '1',
		IDLE_COURIER_URL: url
	};
}
