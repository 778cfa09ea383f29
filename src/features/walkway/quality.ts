/** How much is spent on a picture of the walkway. */
export interface Quality {
  /** Pixels drawn for one of the screen's CSS pixels, at most. */
  readonly pixels: number;
  readonly shadows: boolean;
  /** The sole view is drawn anew with every so many pictures. */
  readonly soleEvery: number;
  /** Dial, chart, strips and numbers follow with every so many pictures. */
  readonly panelEvery: number;
  /** Clay lit simply. */
  readonly plainClay: boolean;
  /** Rules of the chart finer than 25 cm. */
  readonly fineRules: boolean;
}

/** From full quality down to what two cores without a GPU can draw. */
export const QUALITIES: readonly Quality[] = [
  { pixels: 1.5, shadows: true, soleEvery: 1, panelEvery: 1, plainClay: false, fineRules: true },
  { pixels: 1, shadows: true, soleEvery: 2, panelEvery: 2, plainClay: false, fineRules: true },
  { pixels: 0.8, shadows: true, soleEvery: 3, panelEvery: 3, plainClay: false, fineRules: true },
  { pixels: 0.7, shadows: false, soleEvery: 3, panelEvery: 4, plainClay: true, fineRules: false },
  { pixels: 0.55, shadows: false, soleEvery: 4, panelEvery: 4, plainClay: true, fineRules: false },
  { pixels: 0.4, shadows: false, soleEvery: 6, panelEvery: 5, plainClay: true, fineRules: false },
];

/** A picture that rests is drawn once, and can be drawn with all that is seen of it. */
export const AT_REST: Quality = { pixels: 1, shadows: true, soleEvery: 1, panelEvery: 1, plainClay: true, fineRules: true };

/** Pictures a second aimed at; how many intervals between pictures tell the pace; how often it must be told before less is drawn. */
const AIM = 22;
const TOLD_BY = 14;
const SLOW_TOLD = 2;
/** Pictures a second above which one more grade may be tried, how often it must be told, and the pictures of a start that tell nothing. */
const AMPLE = 34;
const AMPLE_TOLD = 5;
const WARM_UP = 30;
/** Intervals (s) longer than this are no pace: the window was hidden, or something was loaded. */
const PAUSE_S = 0.7;

/** Watches the time between pictures and says when less should be drawn, or once for each grade more: so it does not pump. */
export class Pace {
  private readonly intervals: number[] = [];
  private warm = WARM_UP;
  private slow = 0;
  private ample = 0;
  /** Grades that were found too dear. */
  private readonly dear = new Set<number>();

  constructor(public level = 0) {}

  get quality(): Quality {
    return QUALITIES[this.level]!;
  }

  /** Takes note of the seconds since the picture before; true where the quality changed. */
  note(seconds: number): boolean {
    if (!(seconds > 0 && seconds < PAUSE_S)) return false;
    if (this.warm > 0) {
      this.warm--;
      return false;
    }
    this.intervals.push(seconds);
    if (this.intervals.length < TOLD_BY) return false;
    const median = [...this.intervals].sort((a, b) => a - b)[TOLD_BY >> 1]!;
    this.intervals.length = 0;
    this.slow = median > 1 / AIM ? this.slow + 1 : 0;
    this.ample = median < 1 / AMPLE ? this.ample + 1 : 0;
    if (this.slow >= SLOW_TOLD && this.level < QUALITIES.length - 1) {
      this.dear.add(this.level);
      return this.go(this.level + 1);
    }
    if (this.ample >= AMPLE_TOLD && this.level > 0 && !this.dear.has(this.level - 1)) return this.go(this.level - 1);
    return false;
  }

  private go(level: number): true {
    this.level = level;
    this.slow = this.ample = 0;
    return true;
  }
}

/** Level to begin at: full with a GPU, a middle one where pictures are drawn by the processor. */
export const startLevel = (renderer: string): number => (drawnByProcessor(renderer) ? 4 : 0);

/** Whether a renderer's name is that of one that has no GPU. */
export const drawnByProcessor = (renderer: string): boolean => /swiftshader|llvmpipe|softpipe|software|basic render/i.test(renderer);

/** Name of the renderer this browser draws with, empty where it does not say; null where it draws no three dimensions at all. */
export function rendererName(): string | null {
  const gl = document.createElement('canvas').getContext('webgl2');
  if (!gl) return null;
  const told = gl.getExtension('WEBGL_debug_renderer_info');
  const name = told ? String(gl.getParameter(told.UNMASKED_RENDERER_WEBGL)) : '';
  gl.getExtension('WEBGL_lose_context')?.loseContext();
  return name;
}
