import { strToU8 } from 'fflate';
import { createBody } from '../body/body';
import { SHIPPED_BODIES } from '../body/spec';
import { signature } from '../clip/signature';
import { encodeBvh } from '../formats/bvh/encode';
import { toBvh } from '../formats/bvh/from-clip';
import { fromBvh } from '../formats/bvh/to-clip';
import { fitGait } from '../gait/fit';
import { findPreset } from '../gait/presets';
import { setTiming } from '../gait/timing';
import { makeClip } from '../handover/make-clip';
import { seeded } from '../math/random';
import type { ClipSpec } from '../travel/clip-spec';
import { build, partOf } from './motion-spec';

/** Pictures a second of the made-up recording, and its strides. */
const RATE = 60;
const STRIDES = 6;
/** Joints wander by so many degrees and come back by this part a picture; on top of it they shake by so many. */
const WANDER_DEG = 1.3;
const BACK = 0.06;
const SHAKE_DEG = 0.12;

/** A made-up recording for the demo: Marlo walking along the quay, his joints wandering and shaking as markers do. The same bytes each time. */
export function demoRecording(): { readonly bytes: Uint8Array; readonly title: string; readonly file: Omit<ClipSpec['file'], 'hash' | 'bytes'> } {
  const body = createBody(SHIPPED_BODIES.marlo);
  const gait = setTiming(fitGait(findPreset('walk')!.make(), body.legLength), 'speed', 1.25);
  const order = build({ kind: 'cycle', gait: 'gait' }, partOf(body.spec, gait), { rate: RATE });
  const { document } = makeClip(order, RATE, { inPlace: false, cycles: STRIDES });
  const bvh = toBvh(document);
  const width = bvh.values.length / bvh.frames;
  const random = seeded(7);
  const gauss = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  // The first three columns are the place.
  for (let column = 3; column < width; column++)
    for (let f = 0, wandered = 0; f < bvh.frames; f++) {
      wandered += BACK * (WANDER_DEG * gauss() - wandered);
      bvh.values[f * width + column] = bvh.values[f * width + column]! + wandered + SHAKE_DEG * gauss();
    }
  const { clip } = fromBvh(bvh, 1, 'Along the quay');
  return { bytes: strToU8(encodeBvh(bvh)), title: 'Along the quay', file: { name: 'along-the-quay.bvh', index: 0, skeleton: signature(clip.skeleton) } };
}
