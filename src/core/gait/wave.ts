import { TAU, wrapPhase } from '../math/scalar';
import { compileCurve, curveValue, curvePieceAt, PIECE, type CurvePieces } from './curve';
import type { Channel } from './parameters';

/** A damped second-order follower: natural frequency in Hz, damping below 1. */
export interface Follower {
  readonly frequency: number;
  readonly damping: number;
}

/**
 * A channel's wave (without its offset), compiled for one stride time: a cosine, or an edited curve, each with the exact
 * periodic answer of a follower where there is one. Evaluate with `waveAt`.
 */
export interface Wave {
  readonly amount: number;
  readonly delay: number;
  /** Radians per stride of the cosine. */
  readonly turns: number;
  readonly pieces: CurvePieces | null;
  /** Per piece, value and rate of the answer's free part at its start, or null without a follower. */
  readonly free: Float64Array | null;
  /** Decay and ringing of the free part, rad per stride. */
  readonly decay: number;
  readonly ring: number;
}

/** Compiles a channel whose own shape has `waves` waves a stride; `strideTime` in s. */
export function compileWave(channel: Channel, waves: 1 | 2, strideTime: number, follower?: Follower): Wave {
  const turns = TAU * waves;
  if (!channel.curve) {
    const sign = waves === 1 ? 1 : -1;
    const answer = follower ? cosineAnswer(follower, turns / strideTime) : { gain: 1, lag: 0 };
    return { amount: sign * channel.amount * answer.gain, delay: channel.delay - answer.lag / turns, turns, pieces: null, free: null, decay: 0, ring: 0 };
  }
  const pieces = compileCurve(channel.curve);
  const base = { amount: channel.amount, delay: channel.delay, turns };
  if (!follower) return { ...base, pieces, free: null, decay: 0, ring: 0 };
  return { ...base, ...follow(pieces, follower, strideTime) };
}

/** Gain and lag (rad) of a follower driven at `drive` rad/s: |H| and −arg H of ω² / (s² + 2ζωs + ω²). */
function cosineAnswer({ frequency, damping }: Follower, drive: number): { gain: number; lag: number } {
  const r = drive / (TAU * frequency);
  const re = 1 - r * r,
    im = 2 * damping * r;
  return { gain: 1 / Math.hypot(re, im), lag: Math.atan2(im, re) };
}

/**
 * The one periodic answer of y″ + 2ζW y′ + W² y = W² u over a piecewise cubic u (derivatives by phase, W = ωT): on each
 * piece a cubic and a decaying free part; the state at the seam is the fixed point of one stride, so nothing drifts.
 */
function follow(input: CurvePieces, { frequency, damping }: Follower, strideTime: number): Pick<Wave, 'pieces' | 'free' | 'decay' | 'ring'> {
  const W = TAU * frequency * strideTime;
  const decay = damping * W,
    ring = W * Math.sqrt(1 - damping * damping);
  const { count } = input;
  const data = Float64Array.from(input.data);
  for (let o = 0; o < data.length; o += PIECE) {
    const [c0, c1, c2, c3] = [data[o + 1]!, data[o + 2]!, data[o + 3]!, data[o + 4]!];
    const a2 = c2 - (6 * damping * c3) / W;
    const a1 = c1 - (4 * damping * a2) / W - (6 * c3) / (W * W);
    data[o + 1] = c0 - (2 * damping * a1) / W - (2 * a2) / (W * W);
    data[o + 2] = a1;
    data[o + 3] = a2;
  }
  const pieces = { data, count };
  const length = (i: number) => (i + 1 < count ? data[(i + 1) * PIECE]! - data[i * PIECE]! : data[0]! + 1 - data[i * PIECE]!);
  const step = (i: number, y: number, v: number): [number, number] => {
    const o = i * PIECE,
      h = length(i);
    const e = y - data[o + 1]!,
      de = v - data[o + 2]!;
    const b = (de + decay * e) / ring;
    const fade = Math.exp(-decay * h),
      c = Math.cos(ring * h),
      s = Math.sin(ring * h);
    const [a0, a1, a2, a3] = [data[o + 1]!, data[o + 2]!, data[o + 3]!, data[o + 4]!];
    const free = fade * (e * c + b * s);
    return [a0 + h * (a1 + h * (a2 + h * a3)) + free, a1 + h * (2 * a2 + 3 * a3 * h) - decay * free + fade * ring * (b * c - e * s)];
  };
  const stride = (y: number, v: number): [number, number] => {
    let state: [number, number] = [y, v];
    for (let i = 0; i < count; i++) state = step(i, ...state);
    return state;
  };
  // One stride is affine in the state: three runs give it, a 2 × 2 solve its fixed point.
  const [b0, b1] = stride(0, 0);
  const [m00, m10] = stride(1, 0).map((v, i) => v - [b0, b1][i]!) as [number, number];
  const [m01, m11] = stride(0, 1).map((v, i) => v - [b0, b1][i]!) as [number, number];
  const det = (1 - m00) * (1 - m11) - m01 * m10;
  let state: [number, number] = [(b0 * (1 - m11) + m01 * b1) / det, (m10 * b0 + (1 - m00) * b1) / det];
  const free = new Float64Array(count * 2);
  for (let i = 0; i < count; i++) {
    const e = state[0] - data[i * PIECE + 1]!;
    free[i * 2] = e;
    free[i * 2 + 1] = (state[1] - data[i * PIECE + 2]! + decay * e) / ring;
    state = step(i, ...state);
  }
  return { pieces, free, decay, ring };
}

/** The wave at a phase (strides), in the channel's unit. Allocates nothing. */
export function waveAt(wave: Wave, phase: number): number {
  const { pieces } = wave;
  if (wave.amount === 0) return 0;
  if (pieces === null) return wave.amount * Math.cos(wave.turns * (phase + wave.delay));
  if (wave.free === null) return wave.amount * curveValue(pieces, phase + wave.delay);
  const p = wrapPhase(phase + wave.delay);
  const i = curvePieceAt(pieces, p);
  const o = i * PIECE;
  const x = wrapPhase(p - pieces.data[o]!);
  const smooth = pieces.data[o + 1]! + x * (pieces.data[o + 2]! + x * (pieces.data[o + 3]! + x * pieces.data[o + 4]!));
  const free = Math.exp(-wave.decay * x) * (wave.free[i * 2]! * Math.cos(wave.ring * x) + wave.free[i * 2 + 1]! * Math.sin(wave.ring * x));
  return wave.amount * (smooth + free);
}
