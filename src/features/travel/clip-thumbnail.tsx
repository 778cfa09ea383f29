import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { ClipSpec } from '@/core/travel/clip-spec';
import type { EngineClient } from '@/workers/client';
import type { WorkerCalls } from '@/workers/protocol';
import { FilmCanvas, filmOf } from '../library/film';
import { useEngine } from '../stage/measure';

const WIDTH = 44;
/** Larger files (bytes) are not read for a picture alone. */
const LARGEST_BYTES = 20e6;

type Film = WorkerCalls['clipFilm']['answer'];

/** Films made so far, and the one being made: one after the other, so that a long list does not keep the worker from its work. */
const made = new Map<string, Film>();
let latest: Promise<unknown> = Promise.resolve();

function filmFor(engine: EngineClient, key: string, spec: ClipSpec, wanted: () => boolean): Promise<Film | null> {
  const next = latest.then(async () => {
    const known = made.get(key);
    if (known || !wanted()) return known ?? null;
    const film = await engine.call(`clip-film ${key}`, 'clipFilm', { spec });
    made.set(key, film);
    return film;
  });
  latest = next.catch(() => undefined);
  return next;
}

/** A clip in miniature; an empty place until the worker has looked at it. `now`: whether it is the one that is looked at, whose file is read anyway. */
export function ClipThumbnail({ spec, now }: { spec: ClipSpec; now: boolean }) {
  const engine = useEngine();
  // What is seen in miniature depends on the file and on what is said of it alone.
  const key = JSON.stringify([spec.file.hash, spec.file.index, spec.said]);
  const [film, setFilm] = useState<Film | null>(made.get(key) ?? null);
  const asked = useRef(spec);
  asked.current = spec;
  const worth = now || spec.file.bytes <= LARGEST_BYTES;
  useEffect(() => {
    let current = true;
    if (worth)
      filmFor(engine, key, asked.current, () => current).then(
        (answer) => current && answer && setFilm(answer),
        () => undefined,
      );
    return () => {
      current = false;
    };
  }, [engine, key, worth]);
  const make = useCallback(() => filmOf(film!.pictures, film!.stature, Math.max(0.1, film!.seconds)), [film]);
  const odd = film && film.oddities.length > 0 ? film.oddities.join(' ') : null;
  return film ? (
    <>
      <FilmCanvas make={make} width={WIDTH} />
      {odd && (
        <Typography component="span" title={odd} aria-label={`Odd: ${odd}`} sx={{ color: 'error.main', fontWeight: 700, flexShrink: 0 }}>
          odd
        </Typography>
      )}
    </>
  ) : (
    <Box sx={{ width: WIDTH, height: (WIDTH * 108) / 150, flexShrink: 0 }} />
  );
}
