import type { Db } from '../../src/lib/server/db/open';

/** Lets the copies of a dispatch leave and a third of them be read, in plain SQL: what is measured is the looking at it. */
export const leftAndRead = (db: Db, id: number): Promise<void> =>
	db.write(async (tx) => {
		await tx.run(
			`UPDATE delivery SET state = CASE id % 3 WHEN 0 THEN 'read' WHEN 1 THEN 'delivered' ELSE 'failed' END,
				left_at = due_at + 1000, read_at = CASE id % 3 WHEN 0 THEN due_at + 1000 * (id % 5000) END WHERE dispatch_id = $id`,
			{ id }
		);
		await tx.run('UPDATE dispatch SET evidence = evidence + 1, state = $state WHERE id = $id', {
			id,
			state: 'sent'
		});
	});
