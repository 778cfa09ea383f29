import { decodePlan } from '../src/core/formats/json/decode';
import { makeClip } from '../src/core/handover/make-clip';
import { build, partOf } from '../src/core/project/motion-spec';
import { decoded, formatOf, InputFault, MOTION_OPTIONS, parseOptions, readBody, readGait, readInput, readNumber } from './input';
import { writeMotion } from './write-motion';

/** `steps`: a straight plan as a file. The plan's gait can be overridden with --gait. */
export async function stepsCommand(args: string[]): Promise<number> {
  const { values } = parseOptions(args, { ...MOTION_OPTIONS, plan: { type: 'string' } });
  const format = formatOf(values.out);
  const file = values.plan;
  if (file === undefined) throw new InputFault(['--plan is needed: a plan file (JSON)']);
  const text = (await readInput(file)).toString('utf8');
  const plan = decoded(() => decodePlan(text, file));
  const rate = readNumber('fps', values.fps, 60, 1, 240);
  const body = await readBody(values.body, values.stature);
  const gait = await readGait(values.gait ?? plan.gait, values.set, body);
  const part = partOf(body.spec, gait, { plans: { plan: { ...plan, gait: 'gait' } } });
  const built = build({ kind: 'plan', plan: 'plan' }, part, { rate });
  return writeMotion(values.out!, format, makeClip(built, rate, { inPlace: values['in-place'] ?? false }));
}
