import { expect } from 'chai';
import { courierHealth } from '../../../../../src/lib/server/desk/office/courier-status';
import { metricsText } from '../../../../../src/lib/server/desk/office/metrics';
import { mayWatch } from '../../../../../src/lib/server/http/may-watch';
import { coordinator, teacher, office } from '../../database';
import { answeredSchool, type AnsweredSchool } from '../replies/answered-school';

describe('figures for whoever watches', () => {
	let school: AnsweredSchool;
	beforeEach(async () => (school = await answeredSchool()));
	afterEach(() => school.close());

	it('are OpenMetrics text: each family with its type before its samples, and an end (OpenMetrics 1.0, "Text Format")', async () => {
		await school.mail(10, 'Can he bring boots?');
		const health = await courierHealth(school.db);
		const figures = {
			...{ health, waitingReplies: 1, inBackground: 2, memoryBytes: 123_456_789 },
			disk: { freeMegabytes: 12, full: false }
		};
		const { type, text } = await metricsText(figures);
		expect(type).to.equal('application/openmetrics-text; version=1.0.0; charset=utf-8');
		expect(text.endsWith('# EOF\n')).to.equal(true);
		const typed = new Set<string>();
		for (const line of text.trimEnd().split('\n')) {
			if (line === '# EOF') continue;
			const said = /^# (TYPE|HELP) ([a-z_]+) (.+)$/.exec(line);
			if (said) {
				if (said[1] === 'TYPE') typed.add(said[2]!);
				continue;
			}
			const sample =
				/^([a-z_]+)(?:\{way="(?:email|text|inbox)"\})? (\d+(?:\.\d+)?(?:e\+\d+)?)$/.exec(line);
			expect(sample, line).to.not.equal(null);
			expect(typed.has(sample![1]!), line).to.equal(true);
		}
		expect(text).to.contain('\nidle_courier_replies_waiting 1\n');
		expect(text).to.contain('\nidle_courier_web_work_in_background 2\n');
		expect(text).to.match(/\nidle_courier_write_lock_held_seconds \d/);
		expect(text).to.contain('\nidle_courier_disk_free_bytes 12000000\n');
		expect(text).to.contain('\nidle_courier_way_working{way="text"} 1\n');
		// Numbers, and nothing of anybody.
		expect(text).to.not.match(/@|Boats|Delfina|\+1207/);
		// A second reading is made anew.
		expect((await metricsText(figures)).text).to.equal(text);
	});

	it('are told to whoever runs it, and by the token as a bearer (RFC 6750 section 2.1); to nobody else', () => {
		const token = 'a-token-of-many-letters';
		expect([coordinator, office, teacher].map((u) => mayWatch(u, null, token))).to.deep.equal([
			true,
			false,
			false
		]);
		expect(mayWatch(null, null, token)).to.equal(null);
		expect(mayWatch(null, `Bearer ${token}`, token)).to.equal(true);
		expect(mayWatch(null, `bearer ${token}`, token)).to.equal(true);
		for (const given of [
			`Bearer ${token}x`,
			'Bearer ',
			`Basic ${token}`,
			token,
			`Bearer ${token} x`
		])
			expect(mayWatch(null, given, token), given).to.equal(false);
		expect(mayWatch(null, 'Bearer ', null)).to.equal(false);
		// Whoever is signed in is who they are, whatever else they send.
		expect(mayWatch(teacher, `Bearer ${token}`, token)).to.equal(false);
	});
});
