import { checkFile, type CheckResult } from '../src/core/check/check';
import { FormatFault } from '../src/core/formats/limits';
import { decodeGround } from '../src/core/formats/json/decode';
import { decoded, InputFault, parseOptions, readInput } from './input';
import { summary } from './report';

/** What a file may show before the check fails: the bars of generated motion. */
const BARS = { slideMm: 0.05, sinkMm: 0.1, seamM: 1e-6 } as const;

/** `check`: measures a file. Exit 1 where it fails the bars. */
export async function checkCommand(args: string[]): Promise<number> {
  const { values, positionals } = parseOptions(args, { json: { type: 'boolean' }, ground: { type: 'string' }, contacts: { type: 'string' } }, true);
  const file = positionals[0];
  if (file === undefined || positionals.length > 1) throw new InputFault(['check needs one file']);
  const bytes = await readInput(file);
  const { ground: groundFile } = values;
  const groundText = groundFile === undefined ? null : (await readInput(groundFile)).toString('utf8');
  const ground = groundText === null ? undefined : decoded(() => decodeGround(groundText, groundFile!));
  const contacts = values.contacts === undefined ? undefined : { text: (await readInput(values.contacts)).toString('utf8'), file: values.contacts };
  let results: CheckResult[];
  try {
    results = await checkFile(bytes, file, ground, contacts);
  } catch (error) {
    if (error instanceof FormatFault) throw new InputFault([`${file}: ${error.message}`]);
    throw error;
  }
  const failures = results.flatMap(failuresOf);
  if (values.json) process.stdout.write(`${JSON.stringify(results.length === 1 ? results[0] : results, null, 2)}\n`);
  else
    for (const result of results) {
      process.stdout.write(`${result.clip}: ${summary(result)}\n`);
      for (const c of result.contacts) process.stdout.write(`  ${c.foot} foot stands from frame ${c.from} to ${c.to}\n`);
    }
  for (const failure of failures) process.stderr.write(`nimbret: ${file}: ${failure}\n`);
  return failures.length > 0 ? 1 : 0;
}

function failuresOf(r: CheckResult): string[] {
  const out: string[] = [];
  if (r.told === false) out.push(`${r.clip}: the contacts it tells are not borne out by its soles; those that are seen count`);
  if (r.contacts.length === 0) out.push(`${r.clip}: no foot ever stands`);
  if ((r.slideMm.atFrames ?? 0) > BARS.slideMm) out.push(`${r.clip}: a foot slides ${r.slideMm.atFrames!.toFixed(2)} mm; up to ${BARS.slideMm} is held`);
  if (r.dragged.length > 0)
    out.push(
      `${r.clip}: a foot is dragged in ${r.dragged.length} of ${r.contacts.length} contacts, up to ${Math.max(...r.dragged.map((d) => d.mm)).toFixed(0)} mm`,
    );
  if (r.sinkMm > BARS.sinkMm) out.push(`${r.clip}: a sole sinks ${r.sinkMm.toFixed(2)} mm; up to ${BARS.sinkMm} is held`);
  if (r.seam && r.seam.positionM > BARS.seamM) out.push(`${r.clip}: the loop jumps ${(r.seam.positionM * 1000).toFixed(3)} mm at its seam`);
  return out;
}
