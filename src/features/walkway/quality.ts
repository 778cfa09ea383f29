/** How much is spent on a picture of the walkway. */
export interface Quality {
  /** Pixels drawn for one of the screen's CSS pixels, at most. */
  readonly pixels: number;
  readonly shadows: boolean;
  /** The sole view is drawn anew with every so many pictures. */
  readonly soleEvery: number;
  /** Rules of the chart finer than 25 cm. */
  readonly fineRules: boolean;
}

/** From full quality down to what two cores without a GPU can draw. */
export const QUALITIES: readonly Quality[] = [
  { pixels: 1.5, shadows: true, soleEvery: 1, fineRules: true },
  { pixels: 1, shadows: true, soleEvery: 2, fineRules: true },
  { pixels: 0.8, shadows: true, soleEvery: 3, fineRules: true },
  { pixels: 0.7, shadows: false, soleEvery: 3, fineRules: false },
  { pixels: 0.55, shadows: false, soleEvery: 4, fineRules: false },
  { pixels: 0.4, shadows: false, soleEvery: 6, fineRules: false },
];

/** Pictures a second aimed at, and how many intervals between pictures tell the pace. */
const AIM = 22;
const TOLD_BY = 16;
/** Intervals (s) longer than this are no pace: the window was hidden, or something was loaded. */
const PAUSE_S = 0.7;

/** Watches the time between pictures and says when less should be drawn. It never goes back by itself, which would pump. */
export class Pace {
  level: number;
  private readonly intervals: number[] = [];

  constructor(start = 0) {
    this.level = start;
  }

  get quality(): Quality {
    return QUALITIES[this.level]!;
  }

  /** Takes note of the seconds since the picture before; true where the quality changed. */
  note(seconds: number): boolean {
    if (!(seconds > 0 && seconds < PAUSE_S)) return false;
    this.intervals.push(seconds);
    if (this.intervals.length < TOLD_BY) return false;
    const median = [...this.intervals].sort((a, b) => a - b)[TOLD_BY >> 1]!;
    this.intervals.length = 0;
    if (median <= 1 / AIM || this.level === QUALITIES.length - 1) return false;
    // Far too slow, it goes down more than one at a time.
    this.level = Math.min(QUALITIES.length - 1, this.level + (median > 2 / AIM ? 2 : 1));
    return true;
  }
}

/** Level to begin at: full with a GPU, a middle one where pictures are drawn by the processor. */
export const startLevel = (renderer: string): number => (drawnByProcessor(renderer) ? 3 : 0);

/** Whether a renderer's name is that of one that has no GPU. */
export const drawnByProcessor = (renderer: string): boolean => /swiftshader|llvmpipe|softpipe|software|basic render/i.test(renderer);

/** Name of the renderer this browser draws with; empty where it does not say. */
export function rendererName(): string {
  const gl = document.createElement('canvas').getContext('webgl2');
  const told = gl?.getExtension('WEBGL_debug_renderer_info');
  const name = gl && told ? String(gl.getParameter(told.UNMASKED_RENDERER_WEBGL)) : '';
  gl?.getExtension('WEBGL_lose_context')?.loseContext();
  return name;
}
