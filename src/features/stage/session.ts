import { createContext, createElement, useContext, useEffect, useState, type ReactNode } from 'react';
import { createStore, useStore, type StoreApi } from 'zustand';
import type { CurveKey } from '@/core/gait/curve';
import type { GaitSpec } from '@/core/gait/spec';
import type { PrintEditSpec } from '@/core/steps/print-spec';
import type { Motion } from '@/core/motion/motion';
import type { Laid } from '@/core/motion/laid';
import type { ClipSpec } from '@/core/travel/clip-spec';
import type { LoopCandidate } from '@/core/travel/find-loops';
import type { WorkerCalls } from '@/workers/protocol';
import type { Remembered } from '../cycle/pattern-memory';

export type ViewName = 'free' | 'side' | 'front' | 'top';
export const TRAILS = ['hips', 'head', 'knees', 'toes', 'hands'] as const;
export type TrailName = (typeof TRAILS)[number];
export type OnionMode = 'off' | 'keyPoses' | 'everyFrames';

/** `more`: further prints that are moved along with the first. */
type Chosen =
  | { readonly kind: 'knot'; readonly key: number }
  | { readonly kind: 'print'; readonly key: number; readonly more?: readonly number[] }
  | { readonly kind: 'feature'; readonly key: string };

/** What one workspace looks at and how; not saved, not undone. */
export interface Session {
  readonly view: ViewName;
  readonly follow: boolean;
  readonly treadmill: boolean;
  /** Ways in which the treadmill holds the figure. */
  readonly held: { readonly forward: boolean; readonly sideways: boolean; readonly height: boolean };
  readonly playing: boolean;
  readonly rate: number;
  readonly loop: boolean;
  readonly fps: number;
  /** Whether times are read in frames of that rate, not in seconds. */
  readonly timesInFrames: boolean;
  /** Pictures each pose is held for on the walkway; 0 = as smooth as the screen. */
  readonly hold: number;
  readonly prints: boolean;
  readonly travelLine: boolean;
  readonly weightPoint: boolean;
  readonly soleView: boolean;
  readonly footfallChart: boolean;
  readonly onion: { readonly mode: OnionMode; readonly every: number; readonly before: number; readonly after: number };
  readonly trails: readonly TrailName[];
  /** A saved state shown as a ghost beside the gait, and what it is called. */
  readonly ghost: { readonly gait: GaitSpec; readonly name: string } | null;
  readonly copiedCurve: readonly CurveKey[] | null;
  /** What was changed about some prints, to be put on those of this or another walk. */
  readonly copiedPrints: readonly PrintEditSpec[] | null;
  /** Chosen member of the directional set, by index. */
  readonly member: number;
  /** What the timing of gaits was before their limbs took turns in another way, by id. */
  readonly turns: Readonly<Record<string, Remembered>>;
  /** What of the walk is chosen: a knot of its course by index, a feature of its ground by id, a print by its step. */
  readonly chosen: Chosen | null;
  /** Id of the clip that is looked at; null for the first. */
  readonly clip: string | null;
  /** A clip whose file is read and not yet kept: it is looked at, and not of the project yet. */
  readonly arriving: ClipSpec | null;
  /** Loops found in it while they are looked at, and the one pointed at. */
  readonly loops: readonly LoopCandidate[] | null;
  readonly loopAt: number | null;
  /** The layer of corrections that is looked at, and whether the clip without them stands beside. */
  readonly layer: number | null;
  readonly clipGhost: boolean;
  /** The joint the plumb of that layer hangs at, by JOINT; null where none is shown. */
  readonly plumb: number | null;
  /** Whether the joints of its own skeleton are shown on the figure, and the one pointed at; whether it wears its own skin, where it has one. */
  readonly jointsShown: boolean;
  readonly jointAt: number | null;
  readonly clipSkin: boolean;
  /** Another clip that is shown with it, and how. */
  readonly clipBeside: { readonly id: string; readonly laid: Laid } | null;
  /** The gait that was taken from a clip, and whether it is laid over it. */
  readonly taken: { readonly clip: string; readonly of: ClipSpec; readonly fit: WorkerCalls['takeGait']['answer']; readonly over: boolean } | null;
  /** Id of the walk that is shown beside the one that is laid out. */
  readonly beside: string | null;
  /** The slide (mm at frames) of each contact (s), as it was measured of the motion made from `part`. */
  readonly slides: {
    readonly part: unknown;
    readonly each: readonly { readonly left: boolean; readonly from: number; readonly to: number; readonly mm: number }[];
  } | null;
  /** What a figure does that is led by hand at present, and where it is led to, m. */
  readonly led: { readonly motion: Motion; readonly place: { readonly x: number; readonly z: number } } | null;
  /** Middle (m) of what the ribbon shows, once it is there. */
  readonly looksAt: { readonly x: number; readonly z: number } | null;
  /** Places looked at by the last search for a way. */
  readonly searched: readonly { readonly x: number; readonly z: number }[] | null;
  /** What the drawer under the walkway shows of a walk, and whether it is open wide. */
  readonly drawer: 'ribbon' | 'chart';
  readonly drawerTall: boolean;
  /** The page that is open at each station, where another than the first is. */
  readonly pages: Readonly<Record<string, string>>;
  /** Whether the Hand-over is to be written as soon as its panel is there. */
  readonly writing: boolean;
  /** What was just done, in words; with `undo` it can be taken back from there. */
  readonly notice: { readonly text: string; readonly undo: boolean; /** A station to go to. */ readonly go?: string } | null;
  set: (change: Partial<Omit<Session, 'set'>>) => void;
}

/** Steps whose prints are chosen, the first one first. */
export const chosenPrints = (chosen: Session['chosen']): readonly number[] => (chosen?.kind === 'print' ? [chosen.key, ...(chosen.more ?? [])] : []);

/** What is switched on and off. */
export type FlagName = { [K in keyof Session]: Session[K] extends boolean ? K : never }[keyof Session];

export type SessionStore = StoreApi<Session>;

export const createSession = (): SessionStore =>
  createStore<Session>((set) => ({
    view: 'free',
    follow: true,
    treadmill: false,
    held: { forward: true, sideways: true, height: true },
    playing: true,
    rate: 1,
    loop: true,
    fps: 24,
    timesInFrames: false,
    hold: 0,
    prints: true,
    travelLine: true,
    weightPoint: false,
    soleView: true,
    footfallChart: true,
    onion: { mode: 'off', every: 3, before: 2, after: 2 },
    trails: [],
    ghost: null,
    copiedCurve: null,
    copiedPrints: null,
    member: 0,
    turns: {},
    chosen: null,
    clip: null,
    arriving: null,
    loops: null,
    loopAt: null,
    layer: null,
    clipGhost: false,
    plumb: null,
    jointsShown: false,
    jointAt: null,
    clipSkin: true,
    clipBeside: null,
    taken: null,
    beside: null,
    led: null,
    slides: null,
    looksAt: null,
    searched: null,
    pages: {},
    writing: false,
    drawer: 'ribbon',
    drawerTall: false,
    notice: null,
    set: (change) => set(change),
  }));

const SessionContext = createContext<SessionStore | null>(null);

/** The session of one workspace for everything below. */
export function SessionProvider({ children }: { children: ReactNode }) {
  const [session] = useState(createSession);
  useEffect(() => {
    // Who asks for less motion is not played at unasked.
    if (window.matchMedia('(prefers-reduced-motion: reduce)').matches) session.setState({ playing: false });
  }, [session]);
  return createElement(SessionContext.Provider, { value: session }, children);
}

export function useSessionStore(): SessionStore {
  const session = useContext(SessionContext);
  if (!session) throw new Error('useSessionStore must be called inside <SessionProvider>');
  return session;
}

export const useSession = <T>(pick: (session: Session) => T): T => useStore(useSessionStore(), pick);
