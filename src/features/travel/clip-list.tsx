import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useRef, useState, type DragEvent } from 'react';
import { MOTION_FILES } from '@/core/formats/motion-file';
import type { ClipSpec } from '@/core/travel/clip-spec';
import { useShallow } from 'zustand/react/shallow';
import { idsOf, useDocument, useDocumentStore } from '../document/context';
import { edit, editItem } from '../document/store';
import { NameInPlace } from '../library/name-in-place';
import { useEngine } from '../stage/measure';
import { useSession } from '../stage/session';
import { rowSx } from '../steps/cells';
import { MadeHere } from './made-here';
import { ClipThumbnail } from './clip-thumbnail';
import { bringFiles, type Bringing } from './bring-in';
import type { ClipOnStage } from './use-clip';

/** The clips of the project: which one is looked at, and how one comes and goes. */
export function ClipList({ clip }: { clip: ClipOnStage | null }) {
  const store = useDocumentStore();
  const engine = useEngine();
  const set = useSession((s) => s.set);
  const specs = useDocument(useShallow((s) => idsOf(s, 'clip').map((id) => s.specs[id] as ClipSpec)));
  const ids = useDocument(useShallow((s) => idsOf(s, 'clip')));
  const [bringing, setBringing] = useState<Bringing | null>(null);
  const [refused, setRefused] = useState<readonly string[]>([]);
  const [over, setOver] = useState(false);
  const [naming, setNaming] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const bring = async (files: readonly File[]) => {
    if (files.length === 0 || bringing) return;
    setRefused([]);
    const done = await bringFiles(files, { engine, store, tell: setBringing, show: (arriving) => set({ arriving }) });
    setRefused(done.refused);
    set({ arriving: null, ...(done.last ? { clip: done.last } : {}) });
  };
  const drop = (e: DragEvent) => {
    e.preventDefault();
    setOver(false);
    void bring([...e.dataTransfer.files]);
  };
  const remove = (id: string) => edit(store, `remove ${store.getState().specs[id]!.name}`, (all) => void delete all[id]);
  return (
    <Box
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
      data-testid="clips"
      sx={{ border: 1, borderStyle: over ? 'solid' : 'dashed', borderColor: over ? 'primary.main' : 'divider', p: 0.75 }}
    >
      {ids.length === 0 && (
        <Typography sx={{ fontSize: 13, px: 0.5, py: 1 }}>
          Drop motion files here ({MOTION_FILES.join(', ')}), recorded or made elsewhere. They stay on this machine, as they came.
        </Typography>
      )}
      {ids.map((id, i) => {
        const { name, file } = specs[i]!;
        const on = clip?.id === id;
        return (
          <ButtonBase
            key={id}
            onClick={() => set({ clip: id })}
            aria-pressed={on}
            sx={{ ...rowSx(on), width: 1, display: 'flex', alignItems: 'center', gap: 1, py: 0.25, textAlign: 'left' }}
          >
            <ClipThumbnail spec={specs[i]!} now={on && clip.answer !== null} />
            <Typography component="span" noWrap sx={{ flex: 1, fontWeight: on ? 600 : 400 }}>
              {name}
            </Typography>
            <Typography component="span" noWrap sx={{ fontSize: 12, color: 'text.secondary', flexShrink: 0, maxWidth: 190 }}>
              {on && clip.answer ? lengthWords(clip.answer.clip) : `${file.name}, ${sizeWords(file.bytes)}`}
            </Typography>
          </ButtonBase>
        );
      })}
      {bringing && (
        <Box sx={{ my: 0.75 }} role="status">
          <Typography sx={{ fontSize: 12.5 }}>
            reading {bringing.name}, {Math.round(bringing.share * 100)} %
          </Typography>
          <LinearProgress variant="determinate" value={bringing.share * 100} />
        </Box>
      )}
      {refused.map((words) => (
        <Alert key={words} severity="error" onClose={() => setRefused(refused.filter((r) => r !== words))} sx={{ py: 0, mt: 0.5 }}>
          {words}. Nothing was changed.
        </Alert>
      ))}
      <Box sx={{ display: 'flex', gap: 0.25, mt: 0.5, '& .MuiButton-root': { minWidth: 0, px: 1 } }}>
        <Button disabled={bringing !== null} onClick={() => input.current?.click()}>
          Import…
        </Button>
        <MadeHere disabled={bringing !== null} onMade={(file) => void bring([file])} onFault={(words) => setRefused([words])} />
        {clip && !clip.arriving && <Button onClick={() => setNaming(!naming)}>Rename</Button>}
        {clip && !clip.arriving && <Button onClick={() => remove(clip.id)}>Remove</Button>}
        <input
          ref={input}
          type="file"
          multiple
          hidden
          accept={MOTION_FILES.join(',')}
          aria-label="Motion files"
          onChange={(e) => {
            void bring([...(e.target.files ?? [])]);
            e.target.value = '';
          }}
        />
      </Box>
      {clip && naming && (
        <NameInPlace
          label="Name of the clip"
          start={clip.spec.name}
          doIt="Rename"
          onDone={(name) => {
            editItem<'clip'>(store, clip.id, 'rename clip', (c) => void (c.name = name));
            setNaming(false);
          }}
          onGiveUp={() => setNaming(false)}
        />
      )}
    </Box>
  );
}

const sizeWords = (bytes: number): string => (bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1e3))} kB` : `${(bytes / 1e6).toFixed(1)} MB`);
const lengthWords = ({ frames, rate }: { frames: number; rate: number }): string =>
  `${frames} frames, ${(frames / rate).toFixed(2)} s at ${Number(rate.toFixed(3))} fps`;
