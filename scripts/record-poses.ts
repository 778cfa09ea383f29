import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { weigh, weighedMotions } from '../src/core/tests/weighed-poses';

/** Records what every style does on every body, for src/core/tests/poses.long.test.ts. To be run where motion is changed on purpose. */
const sums = [...weighedMotions()].flatMap(weigh);
writeFileSync(join(import.meta.dirname, '..', 'src/core/tests/files/poses.f64'), Buffer.from(Float64Array.from(sums).buffer));
console.log(`${sums.length} sums recorded`);
