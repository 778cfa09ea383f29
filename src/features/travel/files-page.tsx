import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { Carrier } from '@/core/clip/carried';
import { contactsName } from '@/core/formats/contacts/file';
import { EXPORT_FORMATS, type ExportFormat } from '@/core/formats/format';
import { useBody } from '../document/selectors';
import { useEngine } from '../stage/measure';
import { CarrierChoice } from '../handover/carrier-choice';
import { saveAs } from '../library/actions';
import type { ClipOnStage } from './use-clip';

/** Files that tell nothing of contacts themselves. */
const BVH = '.bvh';

/** A clip as files: on its own skeleton as it came, or its travel and contacts as a table. */
export function FilesPage({ clip }: { clip: ClipOnStage }) {
  const engine = useEngine();
  const [error, setError] = useState<string | null>(null);
  const own = /\.[^.]+$/.exec(clip.spec.file.name)?.[0].toLowerCase() ?? '';
  const [said, setSaid] = useState<string | null>(null);
  const [carrier, setCarrier] = useState<Carrier | 'usual'>('usual');
  const body = useBody();
  const onBody = `${clip.spec.name} on ${body.spec.name}`;
  const write = (format: 'own' | 'csv' | ExportFormat['id'], ending: string, { named = clip.spec.name, beside = false } = {}) => {
    setError(null);
    setSaid(null);
    engine.call('clip-file', 'clipFile', { spec: clip.spec, format, body: body.spec, carrier: carrier === 'usual' ? null : carrier }).then(
      ({ bytes, mime, slide, contacts }) => {
        if (beside && contacts) saveAs(contactsName(`${named}${ending}`), contacts as Uint8Array<ArrayBuffer>, 'application/json');
        else saveAs(`${named}${ending}`, bytes as Uint8Array<ArrayBuffer>, mime);
        if (slide !== null) setSaid(`On ${body.spec.name} a standing foot slides up to ${(slide * 1000).toFixed(2)} mm.`);
      },
      (e: unknown) => setError(e instanceof Error ? e.message : String(e)),
    );
  };
  return (
    <Box sx={{ display: 'grid', gap: 1, justifyItems: 'start' }}>
      <Typography sx={{ fontSize: 13.5 }}>
        From {clip.spec.file.name}. Written on its own skeleton: names, hierarchy, offsets, channel orders, rate and unit as they came, and every channel that
        was not changed as the file has it.
      </Typography>
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button variant="outlined" disabled={!clip.answer} onClick={() => write('own', own)}>
          Save as {own.slice(1).toUpperCase()}
        </Button>
        {own === BVH && (
          <Button disabled={!clip.answer} onClick={() => write('own', own, { beside: true })}>
            Save contacts beside it
          </Button>
        )}
      </Box>
      <Button variant="outlined" disabled={!clip.answer} onClick={() => write('csv', '.csv')}>
        Save travel and contacts as CSV
      </Button>
      <Typography variant="h3">On {body.spec.name}</Typography>
      <Typography sx={{ fontSize: 13.5 }}>
        Joints are turned alike, distances are in legs.{' '}
        {clip.spec.travel.lock ? 'Its feet are locked anew.' : 'Feet are locked anew where they are locked here.'}
      </Typography>
      <Box sx={{ display: 'flex', gap: 1 }}>
        {EXPORT_FORMATS.map((f) => (
          <Button key={f.id} variant="outlined" disabled={!clip.answer} onClick={() => write(f.id, f.extension, { named: onBody })}>
            Save on {body.spec.name.split(' ')[0]} as {f.id.toUpperCase()}
          </Button>
        ))}
      </Box>
      <Button disabled={!clip.answer} onClick={() => write('bvh', BVH, { named: onBody, beside: true })}>
        Save contacts beside its BVH
      </Button>
      {said && <Typography sx={{ fontSize: 13.5 }}>{said}</Typography>}
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        <Typography sx={{ fontSize: 13.5 }}>Travel on</Typography>
        <CarrierChoice value={carrier} onChange={setCarrier} />
      </Box>
      {error && <Alert severity="error">{error}</Alert>}
    </Box>
  );
}
