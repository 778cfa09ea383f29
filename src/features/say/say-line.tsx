'use client';
import Autocomplete from '@mui/material/Autocomplete';
import Paper from '@mui/material/Paper';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import Box from '@mui/material/Box';
import { useMemo, useState } from 'react';
import { useDocumentStore } from '../document/context';
import { useOffered } from '../document/part';
import type { KeyContext } from '../shell/key-table';
import { useSessionStore } from '../stage/session';
import { answersTo, type Answer } from './sayings';
import { sayingsOf } from './vocabulary';

interface Props {
  readonly context: Omit<KeyContext, 'say'>;
  readonly onClose: () => void;
}

/** A line in which what is wanted is said in words: a value, something by its name, something to be done, a place to go to. */
export function SayLine({ context, onClose }: Props) {
  const store = useDocumentStore();
  const session = useSessionStore();
  const offered = useOffered();
  const [text, setText] = useState('');
  const [refused, setRefused] = useState<string | null>(null);
  const sayings = useMemo(() => sayingsOf({ ...context, store, session, offered }), [context, store, session, offered]);
  const answers = useMemo(() => answersTo(text, sayings), [text, sayings]);
  const take = (answer: Answer | null) => {
    if (!answer) return text.trim() === '' ? onClose() : setRefused('Nothing here is called so.');
    const why = answer.saying.run(answer.rest);
    if (why) return setRefused(why);
    onClose();
    // The keys are the motion's again.
    (document.activeElement as HTMLElement | null)?.blur();
  };
  return (
    <Paper
      role="dialog"
      aria-label="Say what to do"
      elevation={6}
      square
      onBlur={(e) => !e.currentTarget.contains(e.relatedTarget) && onClose()}
      sx={{
        position: 'absolute',
        zIndex: 1200,
        top: 60,
        left: { xs: '50%', md: 'calc((100% - 400px) / 2)' },
        transform: 'translateX(-50%)',
        width: 'min(560px, 94vw)',
        p: 1.25,
        borderTop: '3px solid',
        borderColor: 'primary.main',
      }}
    >
      <Autocomplete<Answer, false, false, true>
        open
        freeSolo
        autoHighlight
        disablePortal
        options={answers}
        filterOptions={(all) => all}
        getOptionLabel={(a) => (typeof a === 'string' ? a : a.saying.words)}
        getOptionKey={(a) => (typeof a === 'string' ? a : `${a.saying.words} ${a.saying.about}`)}
        inputValue={text}
        value={null}
        onInputChange={(_, to, why) => {
          if (why !== 'input') return;
          setText(to);
          setRefused(null);
        }}
        onChange={(_, to) => take(typeof to === 'string' ? (answers[0] ?? null) : to)}
        renderInput={(params) => (
          <TextField
            {...params}
            autoFocus
            placeholder="stride 1.5 m · limp · put down stairs · lock the feet"
            error={refused !== null}
            helperText={refused ?? ' '}
            slotProps={{ ...params.slotProps, htmlInput: { ...params.slotProps.htmlInput, 'aria-label': 'Say what to do', maxLength: 120 } }}
            onKeyDown={(e) => {
              if (e.key !== 'Escape') return;
              e.stopPropagation();
              onClose();
            }}
          />
        )}
        renderOption={({ key, ...props }, { saying, rest }) => (
          <Box component="li" key={key} {...props} sx={{ display: 'flex', gap: 1, alignItems: 'baseline' }}>
            <span>
              {saying.words}
              {saying.wants !== undefined && (
                <Typography component="span" sx={{ color: rest ? 'primary.main' : 'text.secondary', fontWeight: rest ? 600 : 400 }}>
                  {' '}
                  {rest || `… ${saying.wants}`}
                </Typography>
              )}
            </span>
            <Typography component="span" sx={{ ml: 'auto', fontSize: 12.5, color: 'text.secondary' }}>
              {saying.about}
            </Typography>
          </Box>
        )}
      />
    </Paper>
  );
}
