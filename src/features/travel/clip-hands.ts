import { useEffect, type RefObject } from 'react';
import { createPlacement } from '@/core/math/placement';
import { layerValue } from '@/core/travel/layer-value';
import { freshMark } from '../document/history';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { useSession } from '../stage/session';
import type { WalkwayHands } from '../walkway/hands';
import { useClipChange } from './editing';
import type { ClipOnStage } from './use-clip';
import { clipSeconds, keyOf, timeIn, turnsOnly } from './layer-keys';

interface Props {
  readonly motion: StageMotion;
  readonly clip: ClipOnStage;
  readonly clock: Clock;
  readonly hands: RefObject<WalkwayHands | null>;
}

/** What is turned alone nods by so much (rad) as its knob is dragged down by a metre. */
const NOD_PER_M = 4;

/** The chosen layer's plumb is dragged on the figure: a key at the playhead, as its numbers in the panel. */
export function ClipHands({ motion, clip, clock, hands }: Props): null {
  const at = useSession((s) => s.layer);
  const set = useSession((s) => s.set);
  const change = useClipChange(clip.id);
  useEffect(() => {
    hands.current = {
      takePrint: () => null,
      takeJoint: (joint) => set({ jointAt: joint }),
      takePlumb() {
        const layer = at === null ? undefined : clip.spec.layers[at];
        if (!layer) return null;
        const { rate, duration, loop } = clipSeconds(clip);
        // What is dragged stands still meanwhile.
        clock.playing = false;
        const time = timeIn(clock, rate, duration, loop);
        const round = loop ? Math.floor(clock.time / duration) : 0;
        clock.set(time + round * duration);
        const here = new Float64Array(6);
        layerValue(layer, loop ? duration : null)(time, here);
        const place = createPlacement();
        motion.source.place(clock.time, place);
        const [sin, cos] = [Math.sin(place[3]!), Math.cos(place[3]!)];
        const mark = freshMark('plumb');
        return ({ x, y, z, turn }) =>
          change(
            `${layer.name} at ${time.toFixed(2)} s`,
            (c) => {
              const key = keyOf(c.layers[at!]!, time, here);
              // Seen from where the body faces: left, up, forward.
              const move = [x * cos - z * sin, y, x * sin + z * cos];
              if (turnsOnly(layer)) key.turn[0] = here[3]! - y * NOD_PER_M;
              else for (let k = 0; k < 3; k++) key.move[k] = here[k]! + move[k]!;
              key.turn[1] = here[4]! + turn;
            },
            mark,
          );
      },
    };
    return () => {
      hands.current = null;
    };
  });
  return null;
}
