import { invalidate } from '$app/navigation';
import { whenStill } from '../parts/when-still';

/** Fetches what is new about a dispatch when the server says that there is something, a few times a second at most; until the returned function is called. */
export function followDispatch(id: number): () => void {
	const source = new EventSource(`/reach/${id}/live`);
	const fresh = whenStill(() => invalidate('live:dispatch'), 350);
	source.addEventListener('change', fresh.soon);
	// With the session over, the line is not opened again by itself.
	source.addEventListener('ended', () => source.close());
	return () => {
		source.close();
		fresh.stop();
	};
}
