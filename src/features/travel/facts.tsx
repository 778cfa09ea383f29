import Box from '@mui/material/Box';
import { Fragment } from 'react';

/** What was measured: names with their values, one below the other; the last one may weigh more. */
export function Facts({ facts, strong, testId }: { facts: readonly (readonly [name: string, value: string])[]; strong?: string; testId?: string }) {
  return (
    <Box
      component="dl"
      data-testid={testId}
      sx={{ m: 0, display: 'grid', gridTemplateColumns: '1fr auto', columnGap: 1, rowGap: 0.25, '& dd': { m: 0, textAlign: 'right' }, fontSize: 13.5 }}
    >
      {facts.map(([name, value]) => (
        <Fragment key={name}>
          <Box component="dt" sx={{ color: 'text.secondary' }}>
            {name}
          </Box>
          <Box component="dd" sx={{ fontWeight: name === strong ? 600 : 400 }}>
            {value}
          </Box>
        </Fragment>
      ))}
    </Box>
  );
}
