import { makeClip } from '../src/core/handover/make-clip';
import { build, partOf } from '../src/core/project/motion-spec';
import { formatOf, MOTION_OPTIONS, parseOptions, readBody, readCarrier, readGait, readNumber, readWhole } from './input';
import { writeMotion } from './write-motion';

/** `make`: one cycle as a file. */
export async function makeCommand(args: string[]): Promise<number> {
  const { values } = parseOptions(args, { ...MOTION_OPTIONS, cycles: { type: 'string' }, hold: { type: 'string' }, closing: { type: 'boolean' } });
  const format = formatOf(values.out);
  const rate = readNumber('fps', values.fps, 60, 1, 240);
  const cycles = readWhole('cycles', values.cycles, 1, 1, 1000);
  const hold = readWhole('hold', values.hold, 1, 1, 4);
  const body = await readBody(values.body, values.stature);
  const gait = await readGait(values.gait, values.set, body);
  const built = build({ kind: 'cycle', gait: 'gait' }, partOf(body.spec, gait), { rate, hold });
  return writeMotion(
    values.out!,
    format,
    makeClip(built, rate, { inPlace: values['in-place'] ?? false, carrier: readCarrier(values.on), cycles, hold, closing: values.closing ?? false }),
    values.contacts ?? false,
  );
}
