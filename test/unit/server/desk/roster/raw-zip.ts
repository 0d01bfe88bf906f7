import { deflateRawSync } from 'node:zlib';

/** A zip by hand (PKWARE APPNOTE sections 4.3.7, 4.3.12, 4.3.16): names and sizes may lie in it. */
export function rawZip(
	entries: readonly {
		readonly name: string;
		readonly data: Buffer;
		readonly size?: number;
		readonly flags?: number;
	}[]
): Buffer {
	const local: Buffer[] = [];
	const central: Buffer[] = [];
	let offset = 0;
	for (const { name, data, size = data.length, flags = 0 } of entries) {
		const packed = deflateRawSync(data);
		const label = Buffer.from(name);
		const shared = Buffer.alloc(26);
		shared.writeUInt16LE(20, 0);
		shared.writeUInt16LE(flags, 2);
		shared.writeUInt16LE(8, 4);
		shared.writeUInt32LE(packed.length, 14);
		shared.writeUInt32LE(size, 18);
		shared.writeUInt16LE(label.length, 22);
		local.push(Buffer.from('PK\x03\x04', 'latin1'), shared, label, packed);
		const rest = Buffer.alloc(14);
		rest.writeUInt32LE(offset, 10);
		central.push(Buffer.from('PK\x01\x02\x14\x00', 'latin1'), shared, rest, label);
		offset += 30 + label.length + packed.length;
	}
	const directory = Buffer.concat(central);
	const end = Buffer.alloc(18);
	end.writeUInt16LE(entries.length, 4);
	end.writeUInt16LE(entries.length, 6);
	end.writeUInt32LE(directory.length, 8);
	end.writeUInt32LE(offset, 12);
	return Buffer.concat([...local, directory, Buffer.from('PK\x05\x06', 'latin1'), end]);
}
