import Box from '@mui/material/Box';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { ClipSpec } from '@/core/travel/clip-spec';
import type { WorkerCalls } from '@/workers/protocol';
import { FilmCanvas, filmOf } from '../library/film';
import { useEngine } from '../stage/measure';

const WIDTH = 44;

/** A clip in miniature; an empty place until the worker has looked at it. */
export function ClipThumbnail({ id, spec }: { id: string; spec: ClipSpec }) {
  const engine = useEngine();
  const [film, setFilm] = useState<WorkerCalls['clipFilm']['answer'] | null>(null);
  // What is seen in miniature depends on the file and on what is said of it alone.
  const key = JSON.stringify([spec.file.hash, spec.file.index, spec.said]);
  const latest = useRef(spec);
  latest.current = spec;
  useEffect(() => {
    let current = true;
    engine.call(`clip-film ${id}`, 'clipFilm', { spec: latest.current }).then(
      (answer) => current && setFilm(answer),
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [engine, id, key]);
  const make = useCallback(() => filmOf(film!.pictures, film!.stature, Math.max(0.1, film!.seconds)), [film]);
  return film ? <FilmCanvas make={make} width={WIDTH} /> : <Box sx={{ width: WIDTH, height: (WIDTH * 108) / 150, flexShrink: 0 }} />;
}
