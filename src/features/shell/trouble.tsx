import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { memo, useState, type ReactNode } from 'react';
import { KINDS } from '@/core/project/kinds';
import { keepMine, keepMineAsNew, takeTheirs } from '../document/conflicts';
import { idsOf, useDocument, useDocumentStore, useKeptWork } from '../document/context';
import { takeUp, type KeptWork } from '../document/kept-work';
import { freeName } from '../library/actions';
import { projectCall } from '../projects/api';
import { ConflictComparison } from './conflict-comparison';

/** What happened, what was kept and what to do, when saving does not go on by itself. */
export const SaveTrouble = memo(function SaveTrouble() {
  // Saving, saved and not yet saved are said by the mark above.
  const save = useDocument((s) => ('message' in s.save ? s.save : null));
  const conflicts = useDocument((s) => s.conflicts);
  const { kept } = useKeptWork();
  if (!save && Object.keys(conflicts).length === 0 && kept.length === 0) return null;
  return (
    <Box sx={{ position: 'absolute', top: 60, left: 12, right: { xs: 12, md: 420 }, zIndex: 5, display: 'grid', gap: 1, maxHeight: '70vh', overflowY: 'auto' }}>
      {kept.map((k) => (
        <KeptOffer key={k.key} kept={k} />
      ))}
      {save && (
        <Alert severity={save.kind === 'offline' ? 'warning' : 'error'} action={save.kind === 'gone' ? <BringBack /> : undefined}>
          {save.message}
        </Alert>
      )}
      {Object.keys(conflicts).map((id) => (
        <ConflictCard key={id} id={id} />
      ))}
    </Box>
  );
});

/** Brings a project deleted elsewhere back; the work here is then offered anew. */
function BringBack() {
  const projectId = useDocument((s) => s.projectId);
  const [fault, setFault] = useState<string | null>(null);
  const restore = () =>
    projectCall('POST', `/${projectId}/restore`, {}).then(
      () => location.reload(),
      (e: unknown) => setFault(e instanceof Error ? e.message : String(e)),
    );
  return (
    <Button color="inherit" onClick={() => void restore()}>
      {fault ?? 'Bring the project back'}
    </Button>
  );
}

const when = (iso: string): string => new Date(iso).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

/** Offers what an earlier window could not save. */
function KeptOffer({ kept }: { kept: KeptWork }) {
  const store = useDocumentStore();
  const { done } = useKeptWork();
  const names = kept.items.map((i) => i.spec?.name ?? `a removed ${KINDS[i.kind].label}`).join(', ');
  return (
    <Alert
      severity="info"
      data-testid="kept-work"
      action={
        <Choices>
          <Button
            color="inherit"
            onClick={() => {
              takeUp(store, kept);
              done(kept);
            }}
          >
            Restore it
          </Button>
          <Button color="inherit" onClick={() => done(kept)}>
            Discard it
          </Button>
        </Choices>
      }
    >
      Work of {when(kept.at)} was not saved and is kept on this machine: {names}.
    </Alert>
  );
}

const Choices = ({ children }: { children: ReactNode }) => (
  <Box sx={{ display: 'flex', flexWrap: 'wrap', '& .MuiButton-root': { whiteSpace: 'nowrap' } }}>{children}</Box>
);

/** An item that another window changed too: nothing is lost whichever way it is decided. */
function ConflictCard({ id }: { id: string }) {
  const store = useDocumentStore();
  const kind = useDocument((s) => s.meta[id]!.kind);
  const mine = useDocument((s) => s.specs[id] ?? null);
  const theirs = useDocument((s) => s.conflicts[id] ?? null);
  const [open, setOpen] = useState(false);
  if (!theirs) return null;
  const { label, many } = KINDS[kind];
  const asNew = () => {
    const state = store.getState();
    const taken = idsOf(state, kind).map((o) => state.specs[o]!.name);
    keepMineAsNew(store, id, crypto.randomUUID(), freeName(`${mine!.name} (mine)`.slice(0, 76), taken));
  };
  const name = (mine ?? theirs.spec)?.name ?? label;
  return (
    <Alert
      severity="warning"
      data-testid="conflict"
      action={
        <Choices>
          {mine && many && (
            <Button color="inherit" onClick={asNew}>
              Keep mine as a new {label}
            </Button>
          )}
          {(!many || !mine) && (
            <Button color="inherit" onClick={() => keepMine(store, id)} title="Theirs stays among the saved states">
              {mine ? 'Keep mine' : 'Remove it all the same'}
            </Button>
          )}
          <Button color="inherit" onClick={() => takeTheirs(store, id)} title="Undo gives mine back">
            {theirs.spec ? 'Take theirs' : 'Remove mine'}
          </Button>
          {mine && theirs.spec && (
            <Button color="inherit" onClick={() => setOpen(!open)} aria-expanded={open}>
              {open ? 'Close' : 'Side by side'}
            </Button>
          )}
        </Choices>
      }
    >
      “{name}” was {theirs.spec ? 'changed' : 'removed'} in another window. Yours is kept here; all else goes on being saved.
      {open && mine && theirs.spec && <ConflictComparison id={id} kind={kind} mine={mine} theirs={theirs.spec} />}
    </Alert>
  );
}
