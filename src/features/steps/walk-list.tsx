import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import { memo, useState } from 'react';
import { specOf, useDocument, useDocumentStore } from '../document/context';
import { planIdOf, useNames, useWalkPart } from '../document/selectors';
import { editItem } from '../document/store';
import { NameInPlace } from '../library/name-in-place';
import { addWalk, chooseWalk, moveWalk, newWalk, removeWalk } from './walk-actions';

/** The walks of the project: which is being laid out, and how one comes and goes. */
export const WalkList = memo(function WalkList() {
  const store = useDocumentStore();
  const id = useDocument(planIdOf);
  const name = useWalkPart((w) => w.name);
  const walks = useNames('plan');
  const [naming, setNaming] = useState<'new' | 'rename' | null>(null);
  return (
    <Box>
      <Select value={id} inputProps={{ 'aria-label': 'Walk' }} onChange={(e) => chooseWalk(store, e.target.value)} sx={{ width: 1 }}>
        {walks.map(([walkId, label]) => (
          <MenuItem key={walkId} value={walkId}>
            {label}
          </MenuItem>
        ))}
      </Select>
      <Box sx={{ display: 'flex', gap: 0.25, mt: 0.25, '& .MuiButton-root': { minWidth: 0, px: 1 } }}>
        <Button onClick={() => setNaming(naming === 'new' ? null : 'new')}>New</Button>
        <Button onClick={() => addWalk(store, specOf(store.getState(), 'plan', id), `duplicate ${name}`)}>Duplicate</Button>
        <Button onClick={() => setNaming(naming === 'rename' ? null : 'rename')}>Rename</Button>
        <Button disabled={walks.length < 2} onClick={() => removeWalk(store, id)}>
          Remove
        </Button>
        <Button aria-label="Earlier in the list" title="Earlier in the list" disabled={walks[0]?.[0] === id} onClick={() => moveWalk(store, id, -1)}>
          ↑
        </Button>
        <Button aria-label="Later in the list" title="Later in the list" disabled={walks[walks.length - 1]?.[0] === id} onClick={() => moveWalk(store, id, 1)}>
          ↓
        </Button>
      </Box>
      {naming === 'new' && (
        <NameInPlace
          label="Name of the new walk"
          start="New walk"
          doIt="Make"
          onDone={(to) => {
            newWalk(store, to);
            setNaming(null);
          }}
          onGiveUp={() => setNaming(null)}
        />
      )}
      {naming === 'rename' && (
        <NameInPlace
          label="Name of the walk"
          start={name}
          doIt="Rename"
          onDone={(to) => {
            editItem<'plan'>(store, id, 'rename walk', (p) => void (p.name = to));
            setNaming(null);
          }}
          onGiveUp={() => setNaming(null)}
        />
      )}
    </Box>
  );
});
