'use client';
import { Canvas } from '@react-three/fiber';
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { memo, useEffect, useRef, useState, useSyncExternalStore, type RefObject } from 'react';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { useSession } from '../stage/session';
import type { WalkwayHands } from './hands';
import { AT_REST, drawnByProcessor, QUALITIES, rendererName, startLevel } from './quality';
import { LONGEST_STEP_S, WalkwayScene } from './scene';
import { SoleViewFrame } from './sole-view';

interface Props {
  readonly motion: StageMotion;
  readonly clock: Clock;
  readonly hands: RefObject<WalkwayHands | null>;
}

/** What this browser draws with, once it has been asked; the server cannot know. */
let found: { readonly renderer: string | null } | undefined;
const askBrowser = () => (found ??= { renderer: rendererName() });
const NEVER_CHANGES = () => () => {};
const UNKNOWN = () => null;

/** The three-dimensional view: the figure on its chart, and the sole view in its corner. */
export const Walkway = memo(function Walkway(props: Props) {
  const drawing = useSyncExternalStore(NEVER_CHANGES, askBrowser, UNKNOWN);
  return (
    <Box sx={{ position: 'relative', width: 1, height: 1, minHeight: 0 }} data-testid="walkway">
      {drawing?.renderer != null && <Picture {...props} renderer={drawing.renderer} />}
      {drawing?.renderer === null && (
        <>
          <Typography role="status" sx={{ p: 3, maxWidth: 520 }}>
            This browser shows no three-dimensional pictures (WebGL 2 is missing or off). Dial, chart, numbers, plans and hand-over work all the same.
          </Typography>
          <PlainTime motion={props.motion} clock={props.clock} />
        </>
      )}
    </Box>
  );
});

/** Lets the playhead go on where no picture is drawn that would carry it. */
function PlainTime({ motion, clock }: Pick<Props, 'motion' | 'clock'>) {
  useEffect(() => {
    let before = performance.now();
    let frame = requestAnimationFrame(function tick(now) {
      clock.advance(Math.min((now - before) / 1000, LONGEST_STEP_S), motion.duration, motion.endless);
      before = now;
      frame = requestAnimationFrame(tick);
    });
    return () => cancelAnimationFrame(frame);
  }, [clock, motion]);
  return null;
}

function Picture({ motion, clock, hands, renderer }: Props & { readonly renderer: string }) {
  const soleFrame = useRef<HTMLDivElement>(null);
  const soleView = useSession((s) => s.soleView);
  const [level, setLevel] = useState(() => startLevel(renderer));
  const [resting, setResting] = useState(false);
  const { pixels } = resting ? AT_REST : QUALITIES[level]!;
  return (
    <>
      <Canvas
        shadows="percentage"
        dpr={Math.min(window.devicePixelRatio, pixels)}
        camera={{ fov: 32, near: 0.05, far: 80, position: [-2.9, 1.55, 3.6] }}
        gl={{ antialias: !drawnByProcessor(renderer), preserveDrawingBuffer: true, alpha: false }}
        aria-label="Walkway: the figure in three dimensions"
        role="img"
      >
        <WalkwayScene
          motion={motion}
          clock={clock}
          hands={hands}
          soleFrame={soleFrame}
          start={level}
          onLevel={setLevel}
          resting={resting}
          onRest={setResting}
        />
      </Canvas>
      {soleView && <SoleViewFrame frame={soleFrame} />}
      {level > 0 && !resting && (
        <Typography
          data-testid="drawn-simply"
          title="Less resolution, no shadow, the sole view less often: the motion is the same. With a graphics processor the walkway is drawn in full."
          sx={{ position: 'absolute', right: 10, bottom: 6, fontSize: 11.5, color: 'text.secondary' }}
        >
          drawn simply, to keep pace
        </Typography>
      )}
    </>
  );
}
