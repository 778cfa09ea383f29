import { writeFileSync } from 'node:fs';
import { publishedSchemas } from '../src/core/formats/json/published';

/** Writes the JSON Schemas of our files to docs/schema: `npx tsx scripts/schemas.ts`. */
for (const { name, schema } of publishedSchemas()) writeFileSync(`docs/schema/${name}.schema.json`, `${JSON.stringify(schema, null, 2)}\n`);
