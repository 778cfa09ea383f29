import type { FootModel } from '../body/foot-model';
import type { Clip } from './clip';

/** A clip with what is known of who moves in it: whose joint is which, and on what it stands. Metres, Y up. */
export interface ClipFigure {
  readonly clip: Clip;
  /** Joint of each role, by JOINT; −1 where none has it. */
  readonly roles: Int32Array;
  /** Left and right. */
  readonly feet: readonly FootModel[];
  /** Thigh + shank, mean of both legs. */
  readonly legLength: number;
  /** True where the file tells its soles; otherwise they are as its rest pose has them. */
  readonly soled?: boolean;
  /** How the floor moves in the file, as `Clip.deck`; the clip is as it is seen from that floor. */
  readonly deck?: Float64Array;
}
