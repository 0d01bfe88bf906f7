import { expect } from 'chai';
import { eventStream, type EventLine } from '../../../../src/lib/server/http/event-stream';

describe('lines of events', () => {
	/** A line with what comes out of it at the other end. */
	function opened() {
		let line: EventLine | undefined;
		let closed = 0;
		const response = eventStream(new Request('http://courier.example/live'), (one) => {
			line = one;
			return () => (closed += 1);
		});
		const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
		return { line: line!, next: () => reader.read(), closed: () => closed };
	}

	/** The form of an event: WHATWG HTML, section 9.2.6. */
	it('says to each what was said to it, in the form of the standard, also where others were told the same or something else between', async () => {
		const [one, other] = [opened(), opened()];
		for (const { line } of [one, other]) line.say('change', '{"read":1}', 7);
		one.line.say('change', '{"read":1}', 8);
		other.line.say('anew');
		for (const { line } of [one, other]) line.say('change', '{"read":"نور"}');
		const heard = async ({ next }: typeof one) => {
			let text = '';
			while (!text.endsWith('نور"}\n\n')) text += (await next()).value;
			return text;
		};
		const first = 'retry: 2000\n\nevent: change\ndata: {"read":1}\nid: 7\n\n';
		const last = 'event: change\ndata: {"read":"نور"}\n\n';
		expect([await heard(one), await heard(other)]).to.deep.equal([
			`${first}event: change\ndata: {"read":1}\nid: 8\n\n${last}`,
			`${first}event: anew\ndata: {}\n\n${last}`
		]);
		for (const { line } of [one, other]) line.end();
	});

	it('ends saying so, is closed once, and says nothing after it', async () => {
		const { line, next, closed } = opened();
		line.end();
		line.say('change');
		// Two who look at the same moment whether it may go on both end it.
		line.end();
		let text = '';
		for (let part = await next(); !part.done; part = await next()) text += part.value;
		expect([text, closed()]).to.deep.equal(['retry: 2000\n\nevent: ended\ndata: {}\n\n', 1]);
	});

	it('ended when whoever listened has gone, it does nothing', async () => {
		let line: EventLine | undefined;
		const { body } = eventStream(new Request('http://courier.example/live'), (one) => {
			line = one;
			return () => {};
		});
		await body!.cancel();
		line!.say('change');
		line!.end();
	});

	it('is let go where the other end takes nothing any more, and keeps no more for it', async () => {
		let line: EventLine | undefined;
		let closed = 0;
		const { body } = eventStream(new Request('http://courier.example/live'), (one) => {
			line = one;
			return () => (closed += 1);
		});
		for (let i = 0; i < 150; i += 1) line!.say('change', '{}', i);
		expect(closed).to.equal(0);
		for (let i = 150; i < 300; i += 1) line!.say('change', '{}', i);
		line!.end();
		expect(closed).to.equal(1);
		const why = await body!.getReader().read().then(String, String);
		expect(why).to.contain('takes nothing any more');
	});
});
