import type { Query } from '../../db/open';
import { putAnswers, type CameIn, type PutAnswer } from './put-answers';
import { answerByItself } from './say-by-itself';
import { tellOfAnswers } from './tell-of-answers';

/** What families sent back, by whatever way: put into their conversations; whoever answers there is told, and the family what it has to know at once. In the caller's transaction. */
export async function answersCame(
	tx: Query,
	came: readonly CameIn[],
	at: number
): Promise<PutAnswer[]> {
	const put = await putAnswers(tx, came, at);
	await tellOfAnswers(tx, put, at);
	await answerByItself(tx, put, at);
	return put;
}
