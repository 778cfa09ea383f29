import { create } from 'zustand';

export type ViewName = 'free' | 'side' | 'front' | 'top';

/** What one window looks at and how; not saved, not undone. */
interface Session {
  readonly view: ViewName;
  readonly follow: boolean;
  readonly treadmill: boolean;
  readonly playing: boolean;
  readonly rate: number;
  readonly loop: boolean;
  readonly fps: number;
  readonly prints: boolean;
  readonly travelLine: boolean;
  readonly weightPoint: boolean;
  readonly soleView: boolean;
  /** Chosen member of the directional set, by index. */
  readonly member: number;
  set: (change: Partial<Omit<Session, 'set'>>) => void;
}

export const useSession = create<Session>((set) => ({
  view: 'free',
  follow: true,
  treadmill: false,
  playing: true,
  rate: 1,
  loop: true,
  fps: 24,
  prints: true,
  travelLine: true,
  weightPoint: false,
  soleView: true,
  member: 0,
  set: (change) => set(change),
}));
