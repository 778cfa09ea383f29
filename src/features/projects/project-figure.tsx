import Box from '@mui/material/Box';
import dynamic from 'next/dynamic';
import { useEffect, useRef, useState } from 'react';
import { bodyOf, type Body } from '@/core/body/body';
import { fitGait } from '@/core/gait/fit';
import type { GaitSpec } from '@/core/gait/spec';
import type { Item } from '@/core/project/kinds';
import { projectCall } from './api';

const GaitThumbnail = dynamic(() => import('../library/thumbnail').then((m) => m.GaitThumbnail));
const WIDTH = 74;

/** The project's figure in its gait; looked up when it first comes into sight. */
export function ProjectFigure({ id }: { id: string }) {
  const place = useRef<HTMLDivElement>(null);
  const [figure, setFigure] = useState<{ body: Body; gait: GaitSpec } | null>(null);
  useEffect(() => {
    let current = true;
    const watch = new IntersectionObserver(([entry]) => {
      if (!entry!.isIntersecting) return;
      watch.disconnect();
      projectCall<Item[]>('GET', `/${id}`).then(
        (items) => current && setFigure(figureOf(items)),
        // A figure that cannot be had leaves its place empty; the row says the rest.
        () => undefined,
      );
    });
    watch.observe(place.current!);
    return () => {
      current = false;
      watch.disconnect();
    };
  }, [id]);
  return (
    <Box ref={place} sx={{ width: WIDTH, height: (WIDTH * 108) / 150 }}>
      {figure && <GaitThumbnail body={figure.body} gait={figure.gait} width={WIDTH} />}
    </Box>
  );
}

/** Body and gait the project is working on, or its first. */
function figureOf(items: readonly Item[]): { body: Body; gait: GaitSpec } | null {
  const project = items.find((i) => i.kind === 'project') as Item<'project'> | undefined;
  const chosen = <K extends 'body' | 'gait'>(kind: K) =>
    (items.find((i) => i.kind === kind && i.id === project?.spec[kind]) ?? items.find((i) => i.kind === kind)) as Item<K> | undefined;
  const body = chosen('body'),
    gait = chosen('gait');
  if (!body || !gait) return null;
  const built = bodyOf(body.spec);
  return { body: built, gait: fitGait(gait.spec, built.legLength) };
}
