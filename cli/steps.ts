import { decodePlan } from '../src/core/formats/json/decode';
import { makeClip } from '../src/core/handover/make-clip';
import { SHIPPED_BODIES } from '../src/core/body/spec';
import { PRINT_FORMATS } from '../src/core/sheet/prints';
import { build, partOf, type Built } from '../src/core/project/motion-spec';
import { shotOf } from '../src/core/steps/motion';
import { otherGaits } from '../src/core/steps/names';
import { writeWhole } from './output';
import { decoded, formatOf, InputFault, MOTION_OPTIONS, parseOptions, readBody, readCarrier, readGait, readInput, readNumber } from './input';
import { writeMotion } from './write-motion';

/** `steps`: a walk as a file: its motion, or its prints as a table or to scale. The walk's first gait can be overridden with --gait. */
export async function stepsCommand(args: string[]): Promise<number> {
  const { values } = parseOptions(args, { ...MOTION_OPTIONS, plan: { type: 'string' } });
  const prints = PRINT_FORMATS.find((f) => values.out?.toLowerCase().endsWith(f.extension));
  const format = prints ? null : formatOf(values.out);
  const file = values.plan;
  if (file === undefined) throw new InputFault(['--plan is needed: a plan file (JSON)']);
  const text = (await readInput(file)).toString('utf8');
  const plan = decoded(() => decodePlan(text, file));
  const rate = readNumber('fps', values.fps, 60, 1, 240);
  const body = await readBody(values.body ?? (plan.body !== null && plan.body in SHIPPED_BODIES ? plan.body : undefined), values.stature);
  const gait = await readGait(values.gait ?? plan.gait, values.set, body);
  const others = otherGaits(plan);
  const gaits = Object.fromEntries(await Promise.all(others.map(async (id) => [id, await readGait(id, undefined, body)] as const)));
  const part = partOf(body.spec, gait, { plans: { plan: { ...plan, gait: 'gait', body: null } }, gaits });
  let built: Built;
  try {
    built = build({ kind: 'plan', plan: 'plan' }, part, { rate });
  } catch (error) {
    if (error instanceof RangeError) throw new InputFault([`${file}: ${error.message}`]);
    throw error;
  }
  if (prints) {
    await writeWhole(values.out!, Buffer.from(prints.encode(built.motion)));
    process.stdout.write(`${values.out}: ${built.motion.footholds(0, built.motion.duration).length} prints\n`);
    return 0;
  }
  const motion = shotOf(built.motion, plan.shot);
  return writeMotion(
    values.out!,
    format!,
    makeClip({ ...built, motion }, rate, { inPlace: values['in-place'] ?? false, carrier: readCarrier(values.on) }),
    values.contacts ?? false,
  );
}
