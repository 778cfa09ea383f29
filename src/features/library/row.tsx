import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { memo, useState } from 'react';
import type { Body } from '@/core/body/body';
import type { GaitSpec } from '@/core/gait/spec';
import { setGaitCard } from '../cycle/editing';
import { useDocumentStore } from '../document/context';
import { freeName } from './actions';
import { NameInPlace } from './name-in-place';
import { GaitThumbnail } from './thumbnail';

/** One gait of the list: of the project, or one that ships. */
export interface Entry {
  readonly id: string;
  readonly gait: GaitSpec;
  readonly own: boolean;
}

/** What rows do; the same object while the list is, so that a row is rendered again only when it changes itself. */
export interface Acts {
  readonly use: (entry: Entry) => void;
  readonly make: (gait: GaitSpec, name: string) => void;
  readonly lay: (gait: GaitSpec) => void;
  readonly remove: (entry: Entry) => void;
}

interface Props extends Entry {
  readonly body: Body;
  readonly inUse: boolean;
  readonly removable: boolean;
  /** Names that gaits of the project have. */
  readonly taken: readonly string[];
  readonly acts: Acts;
}

/** A row of the list. A copy is named as it is made and leaves the original as it is; renaming is an act of its own. */
export const GaitRow = memo(function GaitRow({ id, gait, own, body, inUse, removable, taken, acts }: Props) {
  const store = useDocumentStore();
  const [act, setAct] = useState<'none' | 'make' | 'rename'>('none');
  const { name, about, tags } = gait;
  const done = () => setAct('none');
  return (
    <Box
      role="listitem"
      data-gait={name}
      data-own={own}
      sx={{ display: 'flex', gap: 1, border: inUse ? 2 : 1, borderColor: inUse ? 'primary.main' : 'divider', p: 0.75, mb: 0.75, minWidth: 0 }}
    >
      <GaitThumbnail body={body} gait={gait} width={92} />
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Typography noWrap title={about} sx={{ fontWeight: 600, fontSize: 13.5 }}>
          {name}
        </Typography>
        <Typography noWrap sx={{ fontSize: 12, color: 'text.secondary' }}>
          {[own ? null : 'ships with Nimbret', ...tags].filter(Boolean).join(', ') || 'no tags'}
        </Typography>
        {act === 'none' && (
          <Box sx={{ display: 'flex', flexWrap: 'wrap', '& .MuiButton-root': { minWidth: 0, px: 0.5, py: 0, fontSize: 12.5 } }}>
            <Button onClick={() => acts.use({ id, gait, own })} disabled={inUse} aria-label={inUse ? `${name}, in use` : `Use ${name}`}>
              {inUse ? 'in use' : 'use'}
            </Button>
            <Button onClick={() => setAct('make')} aria-label={`Make new from it: ${name}`}>
              make new from it
            </Button>
            {!inUse && (
              <Button
                onClick={() => acts.lay(gait)}
                aria-label={`Replace current values by ${name}`}
                title="Replaces the values of the gait in use, which keeps its name"
              >
                replace current values
              </Button>
            )}
            {own && (
              <Button onClick={() => setAct('rename')} aria-label={`Rename ${name}`}>
                rename
              </Button>
            )}
            {removable && (
              <Button onClick={() => acts.remove({ id, gait, own })} aria-label={`Remove ${name}`}>
                remove
              </Button>
            )}
          </Box>
        )}
        {act === 'make' && (
          <NameInPlace
            label={`Name of the new gait made from ${name}`}
            start={freeName(name, taken)}
            doIt="Make it"
            onDone={(n) => {
              done();
              acts.make(gait, n);
            }}
            onGiveUp={done}
          />
        )}
        {act === 'rename' && (
          <NameInPlace
            label={`New name for ${name}`}
            start={name}
            doIt="Rename"
            onDone={(n) => {
              done();
              if (n !== name) setGaitCard(store, id, { name: n, about, tags });
            }}
            onGiveUp={done}
          />
        )}
      </Box>
    </Box>
  );
});
