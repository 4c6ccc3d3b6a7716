// Holds a CycloneDX document against the published schema: node cyclonedx.mjs FILE
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';

const require = createRequire(import.meta.url);
const Ajv = require('ajv');
const formats = require('ajv-formats');
const folder = 'node_modules/@cyclonedx/cyclonedx-library/res/schema/';
const schema = (name) => JSON.parse(readFileSync(folder + name));

const ajv = new Ajv({ strict: false, allErrors: true, addUsedSchema: false });
formats(ajv);
ajv.addFormat('iri-reference', true);
ajv.addFormat('idn-email', true);
for (const name of ['spdx.SNAPSHOT.schema.json', 'jsf-0.82.SNAPSHOT.schema.json'])
  ajv.addSchema(schema(name), 'http://cyclonedx.org/schema/' + name);
const isValid = ajv.compile(schema('bom-1.6.SNAPSHOT.schema.json'));
const ok = isValid(JSON.parse(readFileSync(process.argv[2])));
console.log(ok ? 'valid' : JSON.stringify(isValid.errors, null, 1));
process.exit(ok ? 0 : 1);
