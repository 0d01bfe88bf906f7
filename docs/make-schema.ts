/** `npm run schema`: writes docs/SCHEMA.md anew from the models. */
import { writeFileSync } from 'node:fs';
import { schemaPage } from '../src/lib/server/db/models/page';

writeFileSync(new URL('SCHEMA.md', import.meta.url), schemaPage());
