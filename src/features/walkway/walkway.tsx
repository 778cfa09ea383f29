'use client';
import { Canvas } from '@react-three/fiber';
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useRef, useState } from 'react';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { useSession } from '../stage/session';
import { AT_REST, drawnByProcessor, QUALITIES, rendererName, startLevel } from './quality';
import { WalkwayScene } from './scene';
import { SoleViewFrame } from './sole-view';

interface Props {
  readonly motion: StageMotion;
  readonly clock: Clock;
}

/** The three-dimensional view: the figure on its chart, and the sole view in its corner. */
export function Walkway({ motion, clock }: Props) {
  const soleFrame = useRef<HTMLDivElement>(null);
  const soleView = useSession((s) => s.soleView);
  const [renderer] = useState(() => (typeof document === 'undefined' ? '' : rendererName()));
  const [level, setLevel] = useState(() => startLevel(renderer));
  const [resting, setResting] = useState(false);
  const { pixels } = resting ? AT_REST : QUALITIES[level]!;
  return (
    <Box sx={{ position: 'relative', width: 1, height: 1, minHeight: 0 }} data-testid="walkway">
      <Canvas
        fallback={<p>This browser shows no three-dimensional pictures (WebGL 2 is missing or off). Numbers, plans and hand-over work all the same.</p>}
        shadows="percentage"
        dpr={typeof window === 'undefined' ? 1 : Math.min(window.devicePixelRatio, pixels)}
        camera={{ fov: 32, near: 0.05, far: 80, position: [-2.9, 1.55, 3.6] }}
        gl={{ antialias: !drawnByProcessor(renderer), preserveDrawingBuffer: true, alpha: false }}
        aria-label="Walkway: the figure in three dimensions"
        role="img"
      >
        <WalkwayScene motion={motion} clock={clock} soleFrame={soleFrame} start={level} onLevel={setLevel} resting={resting} onRest={setResting} />
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
    </Box>
  );
}
