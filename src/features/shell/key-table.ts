import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import type { Session, ViewName } from '../stage/session';
import { goToEnd, goToStart, stepContact, stepFrame, togglePlay } from './playback';
import { STATIONS } from './stations';

/** What a key may act on. */
export interface KeyContext {
  readonly clock: Clock;
  readonly motion: StageMotion;
  readonly showSheet: () => void;
  readonly open: (station: string) => void;
  /** Opens the line in which what is wanted is said. */
  readonly say: () => void;
}

export interface KeyEntry {
  /** As `KeyboardEvent.key` tells it; letters in small. */
  readonly key: string;
  /** As the sheet shows it. */
  readonly shown: string;
  readonly what: string;
  readonly run: (context: KeyContext) => void;
}

type Switch = { [K in keyof Session]: Session[K] extends boolean ? K : never }[keyof Session];

const view = (key: string, name: ViewName, what: string): KeyEntry => ({
  key,
  shown: key.toUpperCase(),
  what,
  run: ({ clock }) => clock.session.setState({ view: name }),
});
const flag = (key: string, name: Switch, what: string): KeyEntry => ({
  key,
  shown: key.toUpperCase(),
  what,
  run: ({ clock: { session } }) => session.setState({ [name]: !session.getState()[name] }),
});
const speed = (key: string, shown: string, what: string, next: (rate: number) => number): KeyEntry => ({
  key,
  shown,
  what,
  run: ({ clock: { session } }) => session.setState({ rate: Math.min(2, Math.max(0.1, Math.round(next(session.getState().rate) * 10) / 10)) }),
});

/** Every key of the workspace, once: the listener and the sheet follow from it. */
export const KEY_TABLE: readonly (readonly [group: string, entries: readonly KeyEntry[]])[] = [
  [
    'Playing',
    [
      { key: ' ', shown: 'Space', what: 'Play or pause', run: ({ clock, motion }) => togglePlay(clock, motion) },
      { key: ',', shown: ',', what: 'One frame back', run: ({ clock, motion }) => stepFrame(clock, motion, -1) },
      { key: '.', shown: '.', what: 'One frame on', run: ({ clock, motion }) => stepFrame(clock, motion, 1) },
      { key: '[', shown: '[', what: 'To the landing or lift-off before', run: ({ clock, motion }) => stepContact(clock, motion, -1) },
      { key: ']', shown: ']', what: 'To the next landing or lift-off', run: ({ clock, motion }) => stepContact(clock, motion, 1) },
      { key: 'Home', shown: 'Home', what: 'To the first frame', run: ({ clock, motion }) => goToStart(clock, motion) },
      { key: 'End', shown: 'End', what: 'To the last frame', run: ({ clock, motion }) => goToEnd(clock, motion) },
      speed('-', '−', 'Slower', (r) => r - 0.1),
      speed('+', '+', 'Faster', (r) => r + 0.1),
      speed('0', '0', 'Speed as it is', () => 1),
      flag('r', 'loop', 'Loop'),
      flag('u', 'timesInFrames', 'Read times in frames, or in seconds'),
    ],
  ],
  ['Stations', STATIONS.map(({ id, label }, i) => ({ key: String(i + 1), shown: String(i + 1), what: label, run: ({ open }) => open(id) }))],
  [
    'Walkway',
    [
      view('s', 'side', 'From the side'),
      view('f', 'front', 'From the front'),
      view('t', 'top', 'From above'),
      view('e', 'free', 'Free view'),
      flag('g', 'follow', 'Follow the figure'),
      flag('m', 'treadmill', 'Treadmill'),
      flag('p', 'prints', 'Prints'),
      flag('l', 'travelLine', 'Line of travel'),
      flag('w', 'weightPoint', 'Weight point'),
      flag('c', 'footfallChart', 'Footfall chart'),
      flag('v', 'soleView', 'Sole view'),
    ],
  ],
  [
    'Else',
    [
      { key: '/', shown: '/', what: 'Say what to do: a value, a name, an act', run: ({ say }) => say() },
      { key: '?', shown: '?', what: 'The sheet of keys', run: ({ showSheet }) => showSheet() },
    ],
  ],
];

/** Keys that belong to what has the focus, for the sheet. */
export const FOCUS_KEYS: readonly (readonly [string, string])[] = [
  ['Ctrl+Z, Ctrl+Shift+Z', 'Undo, redo'],
  ['Arrow keys', 'Step the value in focus; Shift ten steps, Alt a tenth'],
  ['Enter, Escape', 'Take what is typed, give it up'],
  ['Arrow keys, Q and E', 'On the ribbon: move and turn what is chosen; Shift ten times as far, with Shift a click chooses several prints'],
  ['Delete', 'Remove the chosen keys of a curve, a knot or feature on the ribbon; reset a print'],
];

const BY_KEY = new Map(KEY_TABLE.flatMap(([, entries]) => entries.map((e) => [e.key, e] as const)));

export const entryFor = (key: string): KeyEntry | undefined => BY_KEY.get(key === '=' ? '+' : key.length === 1 ? key.toLowerCase() : key);
