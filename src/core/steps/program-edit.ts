import type { GaitSpec } from '../gait/spec';
import { toRadians } from '../math/scalar';
import type { PrintEdit } from '../schedule/program';
import type { PrintEditSpec } from './print-spec';

/** An edit as the schedule takes it. */
export const programEdit = ({ turnDeg, gait, held, ...same }: PrintEditSpec, gaitOf: (id: string) => GaitSpec): PrintEdit => ({
  ...same,
  turn: toRadians(turnDeg),
  gait: gait === null ? null : gaitOf(gait),
  held: held && { x: held.x, z: held.z, heading: held.headingDeg === null ? null : toRadians(held.headingDeg), time: held.time },
});
