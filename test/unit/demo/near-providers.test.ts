import { expect } from 'chai';
import { readNotification } from '../../../src/lib/core/track/notification';
import { readReturned } from '../../../src/lib/server/gateway/return-mail';
import {
	notificationAsRead,
	writeNotification,
	type NotificationInput
} from '../../../standin/mailhouse/dsn';

describe('what is said of letters that left within the process that makes the demo', () => {
	for (const said of [
		{ action: 'delivered', status: '2.0.0', diagnostic: '250 2.0.0 in the mailbox' },
		{ action: 'failed', status: '5.1.1', diagnostic: '550 5.1.1 no such mailbox here' }
	] as const) {
		it(`is what a mail of the mailhouse says, once it is read: ${said.action}`, async () => {
			const notice: NotificationInput = {
				...said,
				to: '3.5a456a7ab1fd1076fea3@return.brackwater.example',
				recipient: 'family.amorim@ferrynet.example',
				messageId: '<3.5a45@return.brackwater.example>',
				envelopeId: '<3.5a45@return.brackwater.example>',
				date: new Date(Date.UTC(2027, 2, 9))
			};
			const read = await readReturned(writeNotification(notice));
			const near = notificationAsRead(notice);
			expect(near).to.deep.equal(read.asItCame);
			expect(read.mail).to.deep.equal({
				kind: 'notification',
				notification: readNotification(near.machine)
			});
		});
	}
});
