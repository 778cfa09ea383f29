import type { MotionFile } from '../src/core/formats/motion-file';
import type { clipOnBody, KnownClip } from '../src/core/handover/clip-file';
import type { ClipSpec } from '../src/core/travel/clip-spec';
import type { Layer } from '../src/core/travel/layer-spec';
import type { PreparedClip } from '../src/core/travel/prepare';
import type { EditSpec, RepairSpec, TravelSpec } from '../src/core/travel/spec';

/** What is to be done with every clip of every file. */
export interface Wish {
  readonly said: ClipSpec['said'];
  readonly travel: TravelSpec;
  readonly layers: readonly Layer[];
  /** Roles given by hand, ROLE=JOINT. */
  readonly roles: readonly string[] | undefined;
  readonly repair: RepairSpec;
  readonly edits: EditSpec;
  /** The best loop that is found is cut out. */
  readonly loop: boolean;
  /** A poor one as well. */
  readonly poorLoop: boolean;
}

/** A clip as it was done. */
export interface Done {
  readonly file: string;
  readonly bytes: Uint8Array;
  readonly index: number;
  readonly source: MotionFile;
  readonly known: KnownClip;
  readonly edits: EditSpec;
  readonly travel: TravelSpec;
  readonly layers: readonly Layer[];
  /** How far joints were apart at the seam before it was closed, m; null where no loop was cut. */
  readonly seam: number | null;
  readonly result: PreparedClip;
  /** On a body of ours, where it goes out on one. */
  readonly onBody: ReturnType<typeof clipOnBody> | null;
}
