import { checkFile } from '../src/core/check/check';
import { encodeClip } from '../src/core/formats/encode';
import { cycleMotion, makeClip } from '../src/core/handover/motions';
import { formatOf, MOTION_OPTIONS, parseOptions, readBody, readGait, readNumber, writeWhole } from './input';
import { summary } from './report';

/** `make`: one cycle as a file. */
export async function makeCommand(args: string[]): Promise<number> {
  const { values } = parseOptions(args, { ...MOTION_OPTIONS, cycles: { type: 'string' } });
  const format = formatOf(values.out);
  const rate = readNumber('fps', values.fps, 60, 1, 240);
  const cycles = Math.round(readNumber('cycles', values.cycles, 1, 1, 1000));
  const body = await readBody(values.body, values.stature);
  const gait = await readGait(values.gait, values.set, body);
  const { document, notes } = makeClip(cycleMotion(gait), body, rate, { inPlace: values['in-place'] ?? false, cycles });
  const bytes = await encodeClip(format, document);
  const [check] = await checkFile(bytes, values.out!);
  await writeWhole(values.out!, bytes);
  process.stdout.write(`${values.out}: ${summary(check!)}\n`);
  for (const note of notes) process.stdout.write(`  ${note}\n`);
  return 0;
}
