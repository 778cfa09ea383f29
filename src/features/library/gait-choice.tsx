import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import { useNames } from '../document/selectors';

/** A list of the project's gaits to choose one from. */
export function GaitChoice({ label, value, onChoose }: { label: string; value: string; onChoose: (gaitId: string) => void }) {
  const gaits = useNames('gait');
  return (
    <Select value={value} inputProps={{ 'aria-label': label }} onChange={(e) => onChoose(e.target.value)}>
      {gaits.map(([id, name]) => (
        <MenuItem key={id} value={id}>
          {name}
        </MenuItem>
      ))}
    </Select>
  );
}
