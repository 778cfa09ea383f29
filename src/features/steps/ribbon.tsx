import Box from '@mui/material/Box';
import { useEffect, useMemo, useRef, type RefObject } from 'react';
import type { Course } from '@/core/course/course';
import { toDegrees } from '@/core/math/scalar';
import type { Foothold } from '@/core/motion/motion';
import { draftedHolds } from '@/core/steps/drafted';
import { frameOf, placeIn } from '@/core/ground/frame';
import type { GroundFeature } from '@/core/ground/spec';
import type { PlanSpec } from '@/core/steps/plan';
import { planCourse, planFacing } from '@/core/steps/motion';
import { useWalk } from '../document/selectors';
import { useWidth } from '../footfall/width';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { chosenPrints, useSession, type Session } from '../stage/session';
import { useStable } from '../stage/use-stable';
import { useChosenKeys } from './chosen-keys';
import { addKnot, knotBefore, nearest } from './course-editing';
import { useWalkChange } from './editing';
import { CHART_INK } from './ink';
import { useRibbonGrabs } from './ribbon-grabs';
import { RibbonGround } from './ribbon-ground';
import { FacedPlace, RibbonKnots } from './ribbon-knots';
import { Print } from './ribbon-print';
import { Rope, Rules, Searched } from './ribbon-rope';
import { useRibbonView, type Box2 } from './ribbon-view';
import { lanesOf } from './word-lanes';

interface Props {
  readonly motion: StageMotion;
  readonly clock: Clock;
  readonly height: number;
  /** Filled with what shows all of the walk. */
  readonly fit: RefObject<() => void>;
  /** Filled with what shows what is chosen. */
  readonly fitChosen: RefObject<() => void>;
}

/** Room (px) a letter of the words at a print takes. */
const LETTER_PX = 5.6;
/** Most prints drawn at once; of a longer walk those in sight. */
const MOST_PRINTS = 400;
/** So near (px) to the rope a double-click makes a knot. */
const NEAR_PX = 14;
/** Prints whose place is this far (px) outside are not drawn. */
const OUTSIDE_PX = 40;

/** The walk from above: ground, course and prints, all moved by hand. */
export function Ribbon({ motion, clock, height, fit, fitChosen }: Props) {
  const { id, spec: plan } = useWalk();
  const change = useWalkChange();
  const chosen = useSession((s) => s.chosen);
  const searched = useSession((s) => s.searched);
  const frame = useRef<HTMLDivElement>(null);
  const figure = useRef<SVGPathElement>(null);
  const width = useWidth(frame);
  const course = useMemo((): Course | null => {
    try {
      return planCourse(plan, motion.gait);
    } catch {
      return null;
    }
  }, [plan, motion.gait]);
  const facing = useMemo(() => course && planFacing({ facing: plan.facing }, course), [course, plan.facing]);
  const { source } = motion;
  const planned = useMemo(() => source.footholds(0, source.duration), [source]);
  const was = motion.part.plans.plan;
  const holds = useMemo(() => {
    if (motion.arriving || !was) return [];
    const place = new Float64Array(4);
    return draftedHolds(planned, was, { edits: plan.edits, free: plan.free }, (t) => {
      source.place(t, place);
      return place[3]!;
    });
  }, [planned, motion.arriving, was, plan.edits, plan.free, source]);
  const faults = useMemo(() => new Map(motion.faults.map((f) => [f.step, f.words])), [motion.faults]);
  const box = useMemo(
    () => boxOf(holds, [...(plan.free ? [] : plan.course.knots), ...(plan.facing?.kind === 'point' ? [plan.facing] : [])]),
    [holds, plan.free, plan.course.knots, plan.facing],
  );
  const { map, fit: fitNow, pan } = useRibbonView(id, box, width, height, frame);
  const set = useSession((s) => s.set);
  const { x: middleX, z: middleZ } = map.view;
  useEffect(() => set({ looksAt: { x: middleX, z: middleZ } }), [set, middleX, middleZ]);
  const grab = useRibbonGrabs(motion, map, frame, pan);
  const onKey = useChosenKeys(motion);
  const [onGround, onPrint] = [useStable(grab.ground), useStable(grab.print)];
  useEffect(() => {
    fit.current = () => fitNow();
    fitChosen.current = () => fitNow(boxAbout(chosenPlaces(plan, holds, chosen)) ?? undefined);
  });
  useEffect(() => {
    const place = new Float64Array(4);
    return clock.subscribe((t) => {
      source.place(Math.min(t, source.duration), place);
      const [x, y] = map.px(place[0]!, place[2]!);
      figure.current?.setAttribute('transform', `translate(${x.toFixed(1)} ${y.toFixed(1)}) rotate(${(-toDegrees(place[3]!)).toFixed(1)})`);
    });
  }, [clock, source, map]);

  const inSight = holds.filter((h) => {
    const [x, y] = map.px(h.x, h.z);
    return x > -OUTSIDE_PX && x < width + OUTSIDE_PX && y > -OUTSIDE_PX && y < height + OUTSIDE_PX;
  });
  const keys = useMemo(() => keysOf(holds), [holds]);
  const lanes = useMemo(() => {
    const told = inSightFaults(holds, faults);
    const found = lanesOf(told.map(([h, words]) => ({ at: map.px(h.x, h.z)[0], width: words.length * LETTER_PX })));
    return new Map(told.map(([h], i) => [h.step, found[i]!]));
  }, [holds, faults, map]);
  const steps = chosenPrints(chosen);
  const edited = useMemo(() => new Set(plan.free ? [] : plan.edits.map((e) => e.step)), [plan.free, plan.edits]);
  return (
    <Box
      ref={frame}
      tabIndex={0}
      role="application"
      aria-label={`Ribbon: the walk from above, ${holds.length} prints, ${plan.course.knots.length} knots, ${plan.ground.features.length} features of the ground. Arrow keys move what is chosen.`}
      data-testid="ribbon"
      onKeyDown={onKey}
      onPointerDown={grab.background}
      onDoubleClick={(e) => {
        const at = grab.placeOf(e);
        if (plan.free || !course || nearest(course, at) > NEAR_PX / map.view.scale) return;
        change('add a knot', (p) => addKnot(p, knotBefore(p.course.knots, at.x, at.z), at));
      }}
      sx={{ height, overflow: 'hidden', touchAction: 'none', userSelect: 'none', ...CHART_INK }}
    >
      <svg width={width} height={height} aria-hidden style={{ display: 'block' }}>
        <Rules map={map} width={width} height={height} />
        <RibbonGround ground={plan.ground} map={map} width={width} height={height} chosen={chosen?.kind === 'feature' ? chosen.key : null} onGrab={onGround} />
        {searched && <Searched places={searched} map={map} />}
        {course && !plan.free && <Rope course={course} facing={facing!} map={map} />}
        {plan.facing?.kind === 'point' && <FacedPlace place={plan.facing} map={map} onGrab={grab.faced} />}
        {inSight.slice(0, MOST_PRINTS).map((h) => (
          <Print
            key={keys.get(h)}
            hold={h}
            map={map}
            sole={motion.body.sole}
            chosen={h.step > 0 && steps.includes(h.step)}
            moved={edited.has(h.step)}
            fault={faults.get(h.step) ?? null}
            lane={lanes.get(h.step) ?? 0}
            onGrab={onPrint}
          />
        ))}
        {!plan.free && <RibbonKnots knots={plan.course.knots} map={map} chosen={chosen?.kind === 'knot' ? chosen.key : null} onGrab={grab.knot} />}
        <path ref={figure} pointerEvents="none" d="M-9 -6.5L11 0L-9 6.5L-4 0Z" fill="currentColor" />
      </svg>
    </Box>
  );
}

/** A name for each print by which it is the same one wherever and whenever it lands: it is moved on the ribbon then, not made anew. */
function keysOf(holds: readonly Foothold[]): ReadonlyMap<Foothold, string> {
  const seen = new Map<string, number>();
  return new Map(
    holds.map((h) => {
      const name = `${h.step} ${h.side}`;
      const n = seen.get(name) ?? 0;
      seen.set(name, n + 1);
      return [h, `${name} ${n}`];
    }),
  );
}

/** Prints with something wrong, and its words. */
const inSightFaults = (holds: readonly Foothold[], faults: ReadonlyMap<number, string>) =>
  holds.flatMap((h) => (faults.has(h.step) ? [[h, faults.get(h.step)!] as const] : []));

/** Room (m) about what is chosen. */
const ABOUT_M = 1.2;

/** Where what is chosen lies. */
function chosenPlaces(plan: PlanSpec, holds: readonly Foothold[], chosen: Session['chosen']): { readonly x: number; readonly z: number }[] {
  if (chosen?.kind === 'knot') return plan.course.knots.slice(chosen.key, chosen.key + 1);
  if (chosen?.kind === 'print') return holds.filter((h) => chosenPrints(chosen).includes(h.step));
  const feature = chosen && plan.ground.features.find((f) => f.id === chosen.key);
  if (!feature) return [];
  const { length, breadth } = spanOf(feature);
  const frame = frameOf(feature);
  return [placeIn(frame, 0, breadth / 2), placeIn(frame, length, breadth / 2), placeIn(frame, length, -breadth / 2), placeIn(frame, 0, -breadth / 2)];
}

/** How far a feature reaches ahead of its place and across, m. */
function spanOf(f: GroundFeature): { length: number; breadth: number } {
  if (f.kind === 'bystander') return { length: 0, breadth: 0 };
  return { length: f.kind === 'stairs' ? f.tread * f.count : f.length, breadth: f.breadth };
}

function boxAbout(places: readonly { readonly x: number; readonly z: number }[]): Box2 | null {
  if (places.length === 0) return null;
  const [xs, zs] = [places.map((p) => p.x), places.map((p) => p.z)];
  return [Math.min(...xs) - ABOUT_M, Math.min(...zs) - ABOUT_M, Math.max(...xs) + ABOUT_M, Math.max(...zs) + ABOUT_M];
}

function boxOf(holds: readonly Foothold[], knots: readonly { readonly x: number; readonly z: number }[]): Box2 {
  const all = [...holds, ...knots];
  return [
    Math.min(...all.map((p) => p.x)) - 0.4,
    Math.min(...all.map((p) => p.z)) - 0.4,
    Math.max(...all.map((p) => p.x)) + 0.4,
    Math.max(...all.map((p) => p.z)) + 0.4,
  ];
}
