import { clamp } from '../math/scalar';
import type { LaidStep, LaidWalk, Stretch } from './laid';
import { leastRest, stretchOf } from './laying';
import type { FreePrint, Program } from './program';
import { besideOwn, createStepGaits, firstStepOf, beatsAt, phaseOf, type GaitMix, type StepGait, type StepGaits } from './step-gait';

/** A step that takes more than so many times its gait's own is one behind which both feet stayed. */
const SLOWEST = 1.7;
/** Nobody steps quicker than this part of it. */
const QUICKEST = 0.35;
/** Range of a step's length, in parts of a full one. */
const MOST_SHARE = 1.3;
/** Steps shorter than this part of a full one go nowhere. */
const SPOT_SHARE = 0.2;

/** Gaits that free prints have for themselves, each once. */
const freeGaits = ({ free }: Pick<Program, 'free'>) => [...new Set(free?.prints.flatMap((p) => p.gait ?? []))];

/** Lays out a walk whose prints are given: when each lands is theirs, how it is stepped is the gait's. Throws RangeError where they cannot be walked. */
export function layFree(program: Program, standing: number): LaidWalk {
  const { prints } = program.free!;
  const own = freeGaits(program);
  const gaits = createStepGaits(program.gaits, own);
  const ownOf = (print: FreePrint | undefined) => (print?.gait ? program.gaits.keys.length + own.indexOf(print.gait) : null);
  const mixes = prints.map((print, i): GaitMix => {
    const k = ownOf(print);
    if (k !== null) return { from: k, to: k, part: 0 };
    return besideOwn(gaits.mixAt(print.lands, print.at), ownOf(prints[i + 1]) ?? ownOf(prints[i - 1]), gaits);
  });
  const opening = gaits.of(mixes[0]!);
  const first = firstStepOf(opening, prints[0]!.side);
  const indices = indicesOf(prints, mixes, gaits, first);
  const stretches: Stretch[] = [];
  let delay = 0,
    s = 0;
  for (let from = 0; from < prints.length;) {
    let to = from;
    while (to < prints.length - 1 && !prints[to]!.rests) to++;
    const earliest = stretches.length === 0 ? standing : stretches[stretches.length - 1]!.steps.at(-1)!.landing + leastRest({ stretches });
    const gait = gaits.of(mixes[from]!);
    const swing = gait.airborne[prints[from]!.side] * gait.strideTime;
    // Who would have to leave before standing is over leaves, and everything after it comes, later.
    delay = Math.max(delay, earliest + swing - prints[from]!.lands);
    const partOf = (i: number): StepPart => ({ index: indices[i]!, mix: mixes[i]!, gait: gaits.of(mixes[i]!) });
    const steps = stepsBetween({ prints, from, to, s, delay, first, partOf });
    stretches.push(stretchOf(steps, onSpot(steps) ? 'turn' : 'walk', s, prints[from]!.lands + delay - swing));
    s = prints[to]!.at;
    from = to + 1;
  }
  return { gaits, first, stretches, slowed: 0, farMarks: [] };
}

/** Places of the prints in their gaits' pattern, counted on. */
function indicesOf(prints: readonly FreePrint[], mixes: readonly GaitMix[], gaits: StepGaits, first: number): number[] {
  let index = first - 1;
  return prints.map(({ side }, i) => {
    const gait = gaits.of(mixes[i]!);
    index++;
    const lands = (k: number) => beatsAt(gait, k).some((b) => b.side === side);
    // Behind a rest either foot may go first.
    if (!lands(index) && (i === 0 || prints[i - 1]!.rests)) index++;
    if (!lands(index)) throw new RangeError(`plan: step ${i + 1} lands the foot that stands; it is the other one's turn`);
    return index;
  });
}

interface StepPart {
  readonly index: number;
  readonly mix: GaitMix;
  readonly gait: StepGait;
}

/** Prints `from` … `to`, all of one stretch that begins at `s` m, walked `delay` s late. */
interface Span {
  readonly prints: readonly FreePrint[];
  readonly from: number;
  readonly to: number;
  readonly s: number;
  readonly delay: number;
  readonly first: number;
  readonly partOf: (i: number) => StepPart;
}

function stepsBetween(span: Span): LaidStep[] {
  const { prints, from, to, s, delay, first, partOf } = span;
  const steps: LaidStep[] = [];
  for (let i = from; i <= to; i++) {
    const print = prints[i]!;
    const { index, mix, gait } = partOf(i);
    const phase = phaseOf(gait, index, first);
    const before = steps[steps.length - 1];
    const own = before ? (phase - before.phase) * gait.strideTime : 0;
    const took = before ? print.lands + delay - before.landing : 0;
    if (took < QUICKEST * own) throw new RangeError(`plan: step ${i + 1} lands ${Math.round(took * 1000)} ms after the one before; that is too soon`);
    const paused = Math.max(0, took - SLOWEST * own);
    if (before && paused > 0) steps[steps.length - 1] = { ...before, paused };
    const way = Math.abs(gait.strideLength) / gait.steps.length;
    steps.push({
      number: i + 1,
      index,
      gait,
      mix,
      strideTime: gait.strideTime,
      stretched: before ? took - own - paused : 0,
      paused: 0,
      share: clamp((print.at - (before?.s ?? s)) / way, 0, MOST_SHARE),
      s: print.at,
      onto: null,
      landing: print.lands + delay,
      phase,
      pace: paceAt(span, i),
      wide: i === to ? 1 : 0,
      rests: i === to,
    });
  }
  return steps;
}

/** Speed (m/s) the walk has around a print, past its getting going and coming to rest. */
function paceAt({ prints, from, to, s }: Span, i: number): number {
  let most = 0;
  for (let k = Math.max(from + 1, i - 1); k <= Math.min(to, i + 1); k++)
    most = Math.max(most, (prints[k]!.at - prints[k - 1]!.at) / Math.max(1e-3, prints[k]!.lands - prints[k - 1]!.lands));
  return from === to ? prints[to]!.at - s : most;
}

/** Whether steps only turn on the spot. */
const onSpot = (steps: readonly LaidStep[]): boolean => steps.every((k) => k.share < SPOT_SHARE);
