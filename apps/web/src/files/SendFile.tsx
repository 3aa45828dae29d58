/** Files of a product: opened, and sent in where one is named. */
import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { useRef } from 'react';
import { Box } from '../design/Box';
import { ProblemBox } from '../design/feedback';
import { fileAddress, fileWays } from './ways';

/** `names`: as the value is typed, several parted by commas; no file of ours has one in its name. */
export function FileLinks({ names }: { names: string }) {
  return names.split(/\s*,\s*/).map((name) => (
    <Box as="span" key={name} block>
      <a href={fileAddress(name)} target="_blank" rel="noreferrer">
        Open {name}
      </a>
    </Box>
  ));
}

export function SendFile({ onSent }: { onSent: (name: string) => void }) {
  const input = useRef<HTMLInputElement>(null);
  const sending = useMutation({
    mutationFn: fileWays.send,
    onSuccess: ({ name }) => onSent(name),
    onSettled: () => {
      // The same file may be chosen again, mended.
      if (input.current) input.current.value = '';
    },
  });
  return (
    <Box above={1}>
      <input
        ref={input}
        hidden
        type="file"
        aria-label="File to send"
        onChange={({ target }) => {
          const [file] = target.files ?? [];
          if (file) sending.mutate(file);
        }}
      />
      <Button variant="outlined" disabled={sending.isPending} onClick={() => input.current?.click()}>
        {sending.isPending ? 'Sending…' : 'Send a file'}
      </Button>
      {sending.error && <ProblemBox error={sending.error} />}
    </Box>
  );
}
