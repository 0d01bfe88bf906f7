import { answer as answers } from '../../db/models/delivery';
import { may } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import type { Db } from '../../db/open';
import { record } from '../track/record';
import type { AnswerRow } from '../../db/models/delivery';
import type { DispatchRow } from '../../db/models/dispatch';

/** Writes down that a person has looked at an answer that may have been a machine's, and found that somebody wrote it: then it counts. Returns whether there is such an answer. */
export async function answeredByPerson(db: Db, user: User, answerId: number): Promise<boolean> {
	return db.write(async (tx) => {
		const answer = await tx.one<Pick<AnswerRow, 'deliveryId'> & Pick<DispatchRow, 'senderId'>>(
			`SELECT delivery_id AS deliveryId, sender_id AS senderId FROM answer
			JOIN delivery ON delivery.id = delivery_id JOIN dispatch ON dispatch.id = dispatch_id
			WHERE answer.id = $id AND doubt IS NOT NULL`,
			{ id: answerId }
		);
		if (!answer || !may(user, 'handle', answer.senderId)) return false;
		await tx.rows(answers).change({ id: answerId }, { doubt: null });
		await record(tx, [
			{
				deliveryId: answer.deliveryId,
				at: await now(tx),
				kind: 'answered',
				source: 'by hand',
				detail: 'it was said that a person wrote the answer',
				said: user.name
			}
		]);
		return true;
	});
}
