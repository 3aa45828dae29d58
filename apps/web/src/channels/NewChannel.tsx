/** A new channel: from a rulebook file, one that ships, or a description that fits on a page. */
import Button from '@mui/material/Button';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useRef, useState } from 'react';
import type { z } from 'zod';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { Loaded, ProblemBox, useTell } from '../design/feedback';
import { readJson } from '../design/files';
import { SmallChannel } from './SmallChannel';

type Body = z.input<typeof api.channels.add.body>;

export function NewChannel({ onMade }: { onMade: () => void }) {
  const [way, setWay] = useState('file');
  const queries = useQueryClient();
  const tell = useTell();
  const add = useMutation({
    mutationFn: (body: Body) => call(api.channels.add, { body }),
    onSuccess: () => {
      tell('The channel stands. Next: a place on it');
      void queries.invalidateQueries();
      onMade();
    },
  });
  const send = (body: Body) => add.mutate(body);
  return (
    <>
      <Box as="h2" textSize={22} below={2}>
        New channel
      </Box>
      <Tabs
        value={way}
        onChange={(_, to: string) => {
          add.reset();
          setWay(to);
        }}
      >
        <Tab value="file" label="From a rulebook file" />
        <Tab value="shipped" label="One that ships" />
        <Tab value="small" label="Describe a small one" />
      </Tabs>
      <Box above={3}>
        {way === 'file' && <FromFile isBusy={add.isPending} onSend={send} />}
        {way === 'shipped' && <Shipped isBusy={add.isPending} onSend={send} />}
        {way === 'small' && <SmallChannel isBusy={add.isPending} error={add.error} onSend={send} />}
        {way !== 'small' && add.error && <ProblemBox error={add.error} />}
      </Box>
    </>
  );
}

function FromFile({ isBusy, onSend }: { isBusy: boolean; onSend: (body: Body) => void }) {
  const input = useRef<HTMLInputElement>(null);
  const [fault, setFault] = useState<unknown>();
  const read = (file: File) => {
    setFault(undefined);
    readJson(file).then((rulebook) => onSend({ rulebook }), setFault);
  };
  return (
    <>
      <p className="muted">
        A rulebook is a JSON file with all a channel asks for: its markets, category tree, fields, limits and formats.
        The handbook says how one is written.
      </p>
      <input
        ref={input}
        type="file"
        hidden
        accept=".json,application/json"
        aria-label="Rulebook file"
        onChange={(event) => event.target.files?.[0] && read(event.target.files[0])}
      />
      <Button variant="contained" disabled={isBusy} onClick={() => input.current?.click()}>
        Choose the file
      </Button>
      {fault !== undefined && <ProblemBox error={fault} />}
    </>
  );
}

function Shipped({ isBusy, onSend }: { isBusy: boolean; onSend: (body: Body) => void }) {
  const shipped = useQuery(ask(api.channels.shipped));
  return (
    <Loaded query={shipped}>
      {({ items }) => (
        <>
          {items.map(({ key, name, summary, versions }) => (
            <Box row key={key} line="top" pad={[2.5, 0]} align="start">
              <Box grow>
                <b>{name}</b> <span className="muted">rulebook {versions.join(', ')}</span>
                {summary !== null && <div className="small muted">{summary}</div>}
              </Box>
              <Button
                variant="outlined"
                disabled={isBusy}
                aria-label={`Begin with ${name}`}
                onClick={() => onSend({ shipped: key })}
              >
                Begin with it
              </Button>
            </Box>
          ))}
        </>
      )}
    </Loaded>
  );
}
