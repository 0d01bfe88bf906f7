import { spawn } from 'node:child_process';
import { resolve } from 'node:path';
import { performance } from 'node:perf_hooks';
import { freePorts, until } from '../e2e/stack';

/** The web server by itself on a data folder, as it is built. */
export interface WebAlone {
	readonly url: string;
	readonly pid: number;
	/** From its start to its first answer, ms. */
	readonly startMs: number;
	stop(): Promise<void>;
}

export async function webAlone(folder: string): Promise<WebAlone> {
	const [port] = (await freePorts(1)) as [number];
	const url = `http://localhost:${port}`;
	const start = performance.now();
	const child = spawn(process.execPath, [resolve('build/web/index.js')], {
		env: {
			...process.env,
			...{ NODE_ENV: 'production', NODE_OPTIONS: '', UV_THREADPOOL_SIZE: '8' },
			...{ PORT: String(port), HOST: '127.0.0.1', ORIGIN: url, SHUTDOWN_TIMEOUT: '1' },
			...{ IDLE_COURIER_DATA: folder, IDLE_COURIER_URL: url },
			IDLE_COURIER_PLANNER: resolve('build/processes/planner.js')
		},
		stdio: 'ignore'
	});
	await until('the web server answers', () =>
		fetch(`${url}/health`).then(
			(r) => r.ok,
			() => false
		)
	);
	return {
		url,
		pid: child.pid!,
		startMs: performance.now() - start,
		stop: () =>
			new Promise((done) => {
				child.once('exit', () => done());
				child.kill('SIGTERM');
			})
	};
}
