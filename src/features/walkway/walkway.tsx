'use client';
import { Canvas, useFrame, useThree } from '@react-three/fiber';
import Box from '@mui/material/Box';
import { useColorScheme } from '@mui/material/styles';
import { useEffect, useMemo, useRef, type RefObject } from 'react';
import { OrthographicCamera, type PerspectiveCamera } from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import type { Body } from '@/core/body/body';
import type { Motion } from '@/core/motion/motion';
import { cycle } from '@/core/motion/solved';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { useSession } from '../stage/session';
import { scenePalette } from './palette';
import { Stage } from './stage';
import { SOLE_ASPECT, SOLE_PLACE, SOLE_WIDTH_M, SoleViewFrame } from './sole-view';
import { VIEWS } from './views';

interface Props {
  readonly motion: StageMotion;
  readonly clock: Clock;
}

/** The three-dimensional view: the figure on its chart, and the sole view in its corner. */
export function Walkway({ motion, clock }: Props) {
  const soleFrame = useRef<HTMLDivElement>(null);
  const soleView = useSession((s) => s.soleView);
  return (
    <Box sx={{ position: 'relative', width: 1, height: 1, minHeight: 0 }} data-testid="walkway">
      <Canvas
        fallback={<p>This browser shows no three-dimensional pictures (WebGL 2 is missing or off). Numbers, plans and hand-over work all the same.</p>}
        shadows="percentage"
        dpr={[1, 1.5]}
        camera={{ fov: 32, near: 0.05, far: 80, position: [-2.9, 1.55, 3.6] }}
        gl={{ antialias: true, preserveDrawingBuffer: true }}
        aria-label="Walkway: the figure in three dimensions"
        role="img"
      >
        <WalkwayScene motion={motion} clock={clock} soleFrame={soleFrame} />
      </Canvas>
      {soleView && <SoleViewFrame frame={soleFrame} />}
    </Box>
  );
}

function soleCamera(): OrthographicCamera {
  const half = SOLE_WIDTH_M / 2,
    tall = half * SOLE_ASPECT;
  return new OrthographicCamera(-half, half, tall, -tall, 0.05, 6);
}

/** The time shown: on ones, twos or threes a picture stands until the next one is due. */
function heldTime(time: number, { hold, fps }: { hold: number; fps: number }): number {
  return hold === 0 ? time : (Math.floor((time * fps) / hold + 1e-6) * hold) / fps;
}

/** The saved state that stands beside the figure, prepared as it is shown. */
function useGhost(body: Body): Motion | null {
  const ghost = useSession((s) => s.ghost);
  return useMemo(() => (ghost ? cycle(ghost.gait, body) : null), [body, ghost]);
}

/** Longest step (s) of the playhead between two pictures, so that a busy tab does not jump. */
const LONGEST_STEP_S = 0.1;

function WalkwayScene({ motion, clock, soleFrame }: Props & { soleFrame: RefObject<HTMLDivElement | null> }) {
  const { scene, gl, camera, size } = useThree();
  const { mode, systemMode } = useColorScheme();
  const scheme = (mode === 'system' ? systemMode : mode) === 'dark' ? 'dark' : 'light';
  const stage = useRef<Stage | null>(null);
  const controls = useRef<OrbitControls | null>(null);
  const sole = useRef<OrthographicCamera | null>(null);
  const last = useRef({ x: 0, z: 0 });
  const latest = useRef(motion);
  latest.current = motion;
  const body = motion.body;
  const ghost = useGhost(body);

  useEffect(() => {
    const made = new Stage(scene, latest.current, scenePalette(scheme));
    stage.current = made;
    return () => made.dispose();
  }, [scene, body, scheme]);

  useEffect(() => stage.current?.setMotion(motion), [motion]);

  const { session } = clock;
  useEffect(() => {
    const orbit = new OrbitControls(camera, gl.domElement);
    orbit.target.set(0, 0.82, 0);
    orbit.minDistance = 0.3;
    orbit.maxDistance = 25;
    orbit.maxPolarAngle = Math.PI / 2 + 0.15;
    orbit.addEventListener('start', () => session.setState({ view: 'free' }));
    controls.current = orbit;
    return () => orbit.dispose();
  }, [camera, gl, session]);

  const view = useSession((s) => s.view);
  useEffect(() => {
    const place = VIEWS[view];
    const orbit = controls.current;
    if (!place || !orbit) return;
    orbit.target.set(last.current.x, place.target, last.current.z);
    camera.position.set(last.current.x + place.from[0], place.from[1], last.current.z + place.from[2]);
    orbit.update();
  }, [view, camera]);

  useFrame((_, delta) => {
    const now = stage.current,
      orbit = controls.current;
    if (!now || !orbit) return;
    const options = session.getState();
    clock.advance(Math.min(delta, LONGEST_STEP_S), motion.duration, motion.endless);
    now.show(heldTime(clock.time, options), options, ghost);
    if (options.follow || options.treadmill) {
      const dx = now.focus.x - last.current.x,
        dz = now.focus.z - last.current.z;
      camera.position.x += dx;
      camera.position.z += dz;
      orbit.target.x += dx;
      orbit.target.z += dz;
    }
    last.current.x = now.focus.x;
    last.current.z = now.focus.z;
    orbit.update();
    gl.setScissorTest(false);
    gl.setViewport(0, 0, size.width, size.height);
    gl.render(scene, camera as PerspectiveCamera);
    if (options.soleView && soleFrame.current) renderSoleView(now, soleFrame.current, delta);
  }, 1);

  function renderSoleView(now: Stage, frame: HTMLElement, delta: number): void {
    const { offsetWidth: width, offsetHeight: height } = frame;
    const left = SOLE_PLACE.left;
    const bottom = size.height - SOLE_PLACE.top - height;
    const lens = (sole.current ??= soleCamera());
    now.aimSoleView(lens, 1 - Math.exp(-delta * 9));
    gl.setScissorTest(true);
    gl.setScissor(left, bottom, width, height);
    gl.setViewport(left, bottom, width, height);
    gl.render(scene, lens);
    gl.setScissorTest(false);
  }
  return null;
}
