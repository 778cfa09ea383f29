import { useEffect, useMemo, useRef, useState } from 'react';
import { measuredBody, type Measured } from '@/core/body/measured';
import { ownPose } from '@/core/clip/own-pose';
import type { ShownSkin } from '@/core/formats/gltf/read';
import type { ClipSpec } from '@/core/travel/clip-spec';
import { clipView, type ShownClip } from '@/core/travel/clip-view';
import type { Motion } from '@/core/motion/motion';
import type { Shown } from '@/core/motion/laid';
import { Cancelled, type EngineClient } from '@/workers/client';
import type { ClipAnswer } from '@/workers/protocol';
import { idsOf, useDocument } from '../document/context';
import type { DocumentState } from '../document/store';
import { useEngine } from '../stage/measure';
import { useSession, type Session } from '../stage/session';
import type { OwnFigure } from './own-figure';
import { useBeside } from './use-beside';

/** The clip that is looked at, and what the worker has found of it so far. */
export interface ClipOnStage {
  readonly id: string;
  readonly spec: ClipSpec;
  readonly answer: ClipAnswer | null;
  readonly motion: Motion | null;
  /** What stands beside it: itself without lock and layers, another clip, the gait that was taken from it; each where it is wanted. */
  readonly beside: readonly Shown[];
  /** What is known of the other clip. */
  readonly other: ClipAnswer | null;
  /** Its own skeleton, with the skins its file brought along. */
  readonly own: OwnFigure | null;
  /** Whether its file is still being kept; until then it is only looked at. */
  readonly arriving: boolean;
  /** True while a newer answer is on its way. */
  readonly stale: boolean;
  readonly error: string | null;
}

/** Id of the clip that is looked at: the chosen one, or the first; null where there is none. */
export const clipIdOf = (s: DocumentState, chosen: Session['clip']): string | null =>
  chosen !== null && s.meta[chosen]?.kind === 'clip' && s.specs[chosen] ? chosen : (idsOf(s, 'clip')[0] ?? null);

/** Id of a clip that is not kept yet. */
const ARRIVING = 'arriving';

/** Quiet time (ms) before a changed spec is sent. */
const SETTLE_MS = 40;

/** The clip on the walkway while `on`; null where the project has none. */
export function useClip(on: boolean): ClipOnStage | null {
  const engine = useEngine();
  const chosen = useSession((s) => s.clip);
  const arriving = useSession((s) => (on ? s.arriving : null));
  const own = useDocument((s) => (on ? clipIdOf(s, chosen) : null));
  const kept = useDocument((s) => (own === null ? null : ((s.specs[own] as ClipSpec | undefined) ?? null)));
  const id = arriving ? ARRIVING : own;
  const spec = arriving ?? kept;
  const [state, setState] = useState<{ answer: ClipAnswer | null; of: ClipSpec | null; error: string | null; hash: string }>({
    answer: null,
    of: null,
    error: null,
    hash: '',
  });
  useEffect(() => {
    // While a file is being kept nothing more is asked of the machine than to look at it.
    if (!spec || arriving) return;
    let current = true;
    const timer = setTimeout(() => {
      engine.call('clip', 'clip', { spec }).then(
        (answer) => current && setState({ answer, of: spec, error: null, hash: keyOf(spec) }),
        (error: unknown) =>
          current && !(error instanceof Cancelled) && setState((s) => ({ ...s, of: spec, error: error instanceof Error ? error.message : String(error) })),
      );
    }, SETTLE_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [engine, spec, arriving]);
  const answer = spec && state.hash === keyOf(spec) ? state.answer : null;
  const look = useLook(engine, spec, answer === null);
  // One body as long as it is the same skeleton with the same roles: the figure is made once.
  const measured = useRef<{ key: string; measured: Measured } | null>(null);
  const motion = useMemo(() => {
    const shown = answer ? { ...answer, contacts: answer.held } : look;
    if (!spec || !shown) return null;
    const key = keyOf(spec) + JSON.stringify([spec.said, shown.figure.feet]);
    if (measured.current?.key !== key) measured.current = { key, measured: measuredBody(shown.clip.skeleton, shown.figure, spec.name) };
    return clipView(shown, measured.current.measured);
  }, [spec, answer, look]);
  const { beside, other } = useBeside(engine, id, spec, motion);
  const skins = useSkins(engine, spec, answer !== null);
  const figure = useMemo(
    (): OwnFigure | null => answer && { at: ownPose(answer.clip, answer.floor), joints: answer.clip.skeleton.names.length, roles: answer.figure.roles, skins },
    [answer, skins],
  );
  return useMemo(
    () =>
      id !== null && spec
        ? {
            id,
            spec,
            answer,
            motion,
            beside,
            other,
            own: figure,
            arriving: arriving !== null,
            stale: state.of !== spec,
            error: state.of === spec ? state.error : null,
          }
        : null,
    [id, spec, answer, motion, beside, other, figure, arriving, state],
  );
}

/** A file's clip, apart from what is said and done about it. */
const keyOf = ({ file }: ClipSpec): string => `${file.hash}.${file.index}`;

/** A clip as it came, for as long as nothing is found of it yet: a long one is looked at at once. */
function useLook(engine: EngineClient, spec: ClipSpec | null, wanted: boolean): ShownClip | null {
  const key = spec && wanted ? JSON.stringify([keyOf(spec), spec.said]) : null;
  const [found, setFound] = useState<{ key: string; look: ShownClip } | null>(null);
  const latest = useRef(spec);
  latest.current = spec;
  useEffect(() => {
    if (key === null) return setFound(null);
    let current = true;
    engine.call('clip-look', 'clipLook', { spec: latest.current! }).then(
      (look) => current && setFound({ key, look }),
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [engine, key]);
  return found && found.key === key ? found.look : null;
}

const NO_SKINS: readonly ShownSkin[] = [];

/** The skins of a clip's file; asked for once it is read. */
function useSkins(engine: EngineClient, spec: ClipSpec | null, ready: boolean): readonly ShownSkin[] {
  const key = spec && ready && /\.glb$/i.test(spec.file.name) ? `${keyOf(spec)} ${spec.said.unit}` : null;
  const [found, setFound] = useState<{ key: string; skins: readonly ShownSkin[] } | null>(null);
  const latest = useRef(spec);
  latest.current = spec;
  useEffect(() => {
    if (key === null) return;
    let current = true;
    engine.call('clip-skin', 'clipSkin', { spec: latest.current! }).then(
      ({ skins }) => current && setFound({ key, skins }),
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [engine, key]);
  return found && found.key === key ? found.skins : NO_SKINS;
}
