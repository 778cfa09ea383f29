import { useFrame, useThree } from '@react-three/fiber';
import { useColorScheme } from '@mui/material/styles';
import { useEffect, useMemo, useRef, type RefObject } from 'react';
import { OrthographicCamera, type Camera, type PerspectiveCamera } from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import type { Body } from '@/core/body/body';
import type { Motion } from '@/core/motion/motion';
import { cycle } from '@/core/motion/solved';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { isPressed } from '../stage/pressed';
import { useSession } from '../stage/session';
import { listenHands, type Pointer, type WalkwayHands } from './hands';
import { scenePalette } from './palette';
import { AT_REST, Pace } from './quality';
import { copySoleView, SOLE_ASPECT, SOLE_PLACE, SOLE_WIDTH_M } from './sole-view';
import { Stage } from './stage';
import { VIEWS } from './views';

interface Props {
  readonly motion: StageMotion;
  readonly clock: Clock;
  /** What the pointer can do here besides turning the view; whoever is there may fill it. */
  readonly hands: RefObject<WalkwayHands | null>;
  readonly soleFrame: RefObject<HTMLDivElement | null>;
  /** Quality to begin with, and who is told when it changes. */
  readonly start: number;
  readonly onLevel: (level: number) => void;
  /** Whether the picture rests and is drawn in full, and who is told. */
  readonly resting: boolean;
  readonly onRest: (resting: boolean) => void;
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

/** The quarter turn about the vertical that is nearest to where a camera at (x, z) of what it looks at stands. */
const quarterFacing = (x: number, z: number): number => (Math.round(Math.atan2(x, z) / (Math.PI / 2)) * Math.PI) / 2;

/** Longest step (s) of the playhead between two pictures, so that a busy tab does not jump. */
export const LONGEST_STEP_S = 0.1;
/** Seconds after which a picture that does not change is drawn once more, in full. */
const REST_AFTER_S = 0.3;

/** What was drawn last: a picture that would be the same is not drawn again. */
interface Drawn {
  time: number;
  options: unknown;
  ghost: Motion | null;
  view: string;
  width: number;
  height: number;
  pixels: number;
  pictures: number;
}

/** So high (m) over the ground the eye looks at first, and from so far away. */
const TARGET_M = 0.82;
const FRAMED_M = 4.7;

/** So high (m) over the ground under the figure the eye stays. */
const ABOVE_M = 0.06;

/** Lets an orbit look up from as low as just over the ground, and from no lower. */
function stayAbove(orbit: OrbitControls, camera: Camera, ground: number): void {
  const far = camera.position.distanceTo(orbit.target);
  const over = orbit.target.y - ground - ABOVE_M;
  orbit.maxPolarAngle = far > over ? Math.acos(Math.max(-1, -over / far)) : Math.PI / 2 + 0.15;
}

/** Draws the walkway from the animation loop; React only hands it what to show. */
export function WalkwayScene({ motion, clock, hands, soleFrame, start, onLevel, resting, onRest }: Props) {
  const { scene, gl, camera, size } = useThree();
  const { mode, systemMode } = useColorScheme();
  const scheme = (mode === 'system' ? systemMode : mode) === 'dark' ? 'dark' : 'light';
  const stage = useRef<Stage | null>(null);
  const controls = useRef<OrbitControls | null>(null);
  const sole = useRef<OrthographicCamera | null>(null);
  const soleMoves = useRef(true);
  const last = useRef({ x: 0, y: 0, z: 0 });
  const drawn = useRef<Drawn>({ time: NaN, options: null, ghost: null, view: '', width: 0, height: 0, pixels: 0, pictures: 0 });
  const pace = useRef(new Pace(start));
  /** Seconds for which nothing has changed. */
  const still = useRef(0);
  const restless = useRef(0);
  const latest = useRef(motion);
  latest.current = motion;
  const { session } = clock;
  const body = motion.body;
  const ghost = useGhost(body);

  useEffect(() => {
    const made = new Stage(scene, latest.current, scenePalette(scheme));
    made.setQuality(pace.current.quality);
    stage.current = made;
    return () => made.dispose();
  }, [scene, body, scheme]);

  useEffect(() => {
    // One shadow map a picture, whichever cameras look at it.
    gl.shadowMap.autoUpdate = false;
  }, [gl]);

  useEffect(() => stage.current?.setMotion(motion), [motion]);

  useEffect(() => stage.current?.setQuality(resting ? AT_REST : pace.current.quality), [resting]);

  useEffect(() => {
    const orbit = new OrbitControls(camera, gl.domElement);
    orbit.target.set(0, TARGET_M, 0);
    orbit.minDistance = 0.3;
    orbit.maxDistance = 25;
    orbit.maxPolarAngle = Math.PI / 2 + 0.15;
    orbit.addEventListener('start', () => session.setState({ view: 'free' }));
    controls.current = orbit;
    return () => orbit.dispose();
  }, [camera, gl, session]);

  const pointer = useRef<Pointer | null>(null);
  useEffect(() => {
    const heard = listenHands(
      gl.domElement,
      camera,
      () => stage.current,
      () => hands.current,
    );
    pointer.current = heard;
    return () => heard.end();
  }, [gl, camera, hands]);

  // Another clip may be of another size and lie anywhere: the eye goes there and looks from as far as at first, from the side it
  // looked from. Going to another station it looks on as it did.
  const clip = motion.clip?.id;
  const framed = useRef(clip);

  const view = useSession((s) => s.view);
  useEffect(() => {
    const place = VIEWS[view];
    const orbit = controls.current;
    if (!place || !orbit) return;
    orbit.target.set(last.current.x, last.current.y + place.target, last.current.z);
    camera.position.set(last.current.x + place.from[0], last.current.y + place.from[1], last.current.z + place.from[2]);
    orbit.update();
  }, [view, camera]);

  useFrame((_, delta) => {
    const now = stage.current,
      orbit = controls.current;
    if (!now || !orbit) return;
    clock.heardEvery = pace.current.quality.panelEvery;
    clock.advance(Math.min(delta, LONGEST_STEP_S), motion.duration, motion.endless);
    const options = session.getState();
    const was = drawn.current;
    const time = heldTime(clock.time, options);
    stayAbove(orbit, camera, last.current.y);
    orbit.update();
    hands.current?.beat?.(
      time,
      pointer.current?.onLevel(now.focus.y) ?? null,
      Math.atan2(orbit.target.x - camera.position.x, orbit.target.z - camera.position.z),
    );
    const at = `${camera.position.toArray().join()} ${camera.quaternion.toArray().join()}`;
    const same =
      time === was.time &&
      options === was.options &&
      ghost === was.ghost &&
      at === was.view &&
      size.width === was.width &&
      size.height === was.height &&
      gl.getPixelRatio() === was.pixels;
    if (same && !now.changed && !soleMoves.current) {
      still.current += delta;
      restless.current = 0;
      // What is still being changed, or held, will move again.
      if (!resting && pace.current.level > 0 && still.current > REST_AFTER_S && motion.settled && !isPressed()) onRest(true);
      return;
    }
    still.current = 0;
    // What moves again, by playing or under the hand, is drawn as fast as it can be.
    if (resting && (options.playing || !motion.settled || isPressed() || ++restless.current > 2)) onRest(false);
    if (options.playing && pace.current.note(delta)) {
      now.setQuality(pace.current.quality);
      onLevel(pace.current.level);
    }
    now.show(time, options, ghost, quarterFacing(camera.position.x - orbit.target.x, camera.position.z - orbit.target.z));
    if (options.follow || options.treadmill) {
      const dx = now.focus.x - last.current.x,
        dy = now.focus.y - last.current.y,
        dz = now.focus.z - last.current.z;
      camera.position.x += dx;
      camera.position.y += dy;
      camera.position.z += dz;
      orbit.target.x += dx;
      orbit.target.y += dy;
      orbit.target.z += dz;
    }
    const before = framed.current;
    framed.current = clip;
    if (before !== undefined && clip !== undefined && before !== clip) {
      const back = camera.position.clone().sub(orbit.target).setLength(FRAMED_M);
      orbit.target.set(now.focus.x, now.focus.y + TARGET_M, now.focus.z);
      camera.position.copy(orbit.target).add(back);
    }
    last.current.x = now.focus.x;
    last.current.y = now.focus.y;
    last.current.z = now.focus.z;
    orbit.update();
    now.changed = false;
    gl.shadowMap.needsUpdate = (resting ? AT_REST : pace.current.quality).shadows;
    gl.setScissorTest(false);
    gl.setViewport(0, 0, size.width, size.height);
    gl.render(scene, camera as PerspectiveCamera);
    soleMoves.current = false;
    if (options.soleView && soleFrame.current) renderSoleView(now, soleFrame.current, delta, options.playing);
    Object.assign(was, {
      time,
      options,
      ghost,
      view: `${camera.position.toArray().join()} ${camera.quaternion.toArray().join()}`,
      width: size.width,
      height: size.height,
      pixels: gl.getPixelRatio(),
    });
    gl.domElement.dataset.drawn = String(++was.pictures);
    gl.domElement.dataset.quality = resting ? 'at rest' : String(pace.current.level);
  }, 1);

  function renderSoleView(now: Stage, frame: HTMLElement, delta: number, playing: boolean): void {
    const { offsetWidth: width, offsetHeight: height } = frame;
    const { soleEvery } = resting ? AT_REST : pace.current.quality;
    const lens = (sole.current ??= soleCamera());
    // At rest it is looked at: then it comes to its place and shows what is now.
    soleMoves.current = now.aimSoleView(lens, 1 - Math.exp(-delta * 9));
    const over = frame.querySelector('canvas');
    if (over) over.style.display = soleEvery > 1 ? 'block' : 'none';
    const copy = soleEvery > 1 ? over : null;
    if ((playing || !motion.settled || isPressed()) && copy && drawn.current.pictures % soleEvery !== 0) return;
    const left = SOLE_PLACE.left;
    const bottom = size.height - SOLE_PLACE.top - height;
    gl.setScissorTest(true);
    gl.setScissor(left, bottom, width, height);
    gl.setViewport(left, bottom, width, height);
    now.showHandles(false);
    gl.render(scene, lens);
    now.showHandles(true);
    gl.setScissorTest(false);
    if (copy) copySoleView(gl.domElement, copy, { left, top: SOLE_PLACE.top, width, height }, gl.getPixelRatio());
  }
  return null;
}
