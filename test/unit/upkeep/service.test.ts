import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { validate } from 'dockerfile-utils';
import { migrate } from '../../../src/lib/server/db/migrate';
import { testSchool } from '../server/database';

const unitFile = join('upkeep', 'idle-courier.service');
const image = join('upkeep', 'Containerfile');

describe('as a service', () => {
	it('the unit is one that systemd takes, starts what is there, and writes nowhere but to its data', () => {
		const unit = readFileSync(unitFile, 'utf8');
		const settings = new Map(
			unit
				.split('\n')
				.flatMap((line) => (/^[A-Z]/.test(line) ? [line] : []))
				.map((line) => [line.slice(0, line.indexOf('=')), line.slice(line.indexOf('=') + 1)])
		);
		expect(existsSync(settings.get('ExecStart')!.split(' ')[1]!)).to.equal(true);
		// systemd.exec(5): DynamicUser, ProtectSystem=strict and StateDirectory together.
		expect(settings.get('DynamicUser')).to.equal('yes');
		expect(settings.get('ProtectSystem')).to.equal('strict');
		expect(settings.get('CapabilityBoundingSet')).to.equal('');
		expect(unit).to.contain(`/var/lib/${settings.get('StateDirectory')!}`);
		// More than the processes are given to end (start.mjs), or systemd would kill them.
		const giving = Number(
			/endingMs = ([\d_]+)/.exec(readFileSync('upkeep/start.mjs', 'utf8'))![1]!.replace('_', '')
		);
		expect(Number(settings.get('TimeoutStopSec')) * 1000).to.be.above(giving);
		const verified = spawnSync('systemd-analyze', ['verify', unitFile], { encoding: 'utf8' });
		if (verified.error) return;
		// Where Node lies on this machine is no matter of the unit's.
		const said = verified.stderr
			.split('\n')
			.filter((line) => line.includes('idle-courier') && !/not executable/.test(line));
		expect(said).to.deep.equal([]);
	});

	it('the image is built without fault by the rules of its file, runs as nobody, and copies what there is', () => {
		const text = readFileSync(image, 'utf8');
		expect(validate(text).map((p) => p.message)).to.deep.equal([]);
		const last = text.slice(text.lastIndexOf('\nFROM'));
		expect(last)
			.to.match(/\nUSER 10001:10001\n/)
			.and.match(/\nCMD \["node", "upkeep\/start.mjs"\]/);
		for (const [, files] of last.matchAll(/^COPY --from=built (.+) \S+$/gm))
			for (const file of files!.split(' '))
				if (!/node_modules|build$/.test(file))
					expect(existsSync(file.replace('/app/', '')), file).to.equal(true);
	});

	it('a step back is refused in words, and changes nothing', async () => {
		const school = await testSchool();
		await school.db.run(`INSERT INTO migration (name) VALUES ('999-later')`);
		let why = '';
		await migrate(school.db).catch((error: Error) => (why = error.message));
		expect(why).to.match(/newer version \(999-later\).*npm run restore/);
		await school.close();
	});
});
