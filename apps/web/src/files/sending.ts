/** Files on their way in: one after the other, each with what became of it. */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useTell } from '../design/feedback';
import { plural } from '../design/words';

interface Refused {
  name: string;
  why: string;
}

export interface Sending {
  send: (files: readonly File[]) => void;
  isBusy: boolean;
  done: number;
  of: number;
  refused: readonly Refused[];
  error: Error | null;
}

/** `onSent` gets those that came, once all are through; a refused one holds no other back. `what` names one of them. */
export function useSending<Came>(
  sendOne: (file: File) => Promise<Came>,
  what: string,
  onSent: (came: readonly Came[]) => void,
): Sending {
  const queries = useQueryClient();
  const tell = useTell();
  const [done, setDone] = useState(0);
  const [of, setOf] = useState(0);
  const [refused, setRefused] = useState<readonly Refused[]>([]);
  const sending = useMutation({
    mutationFn: async (files: readonly File[]) => {
      setOf(files.length);
      setDone(0);
      setRefused([]);
      const came: Came[] = [];
      const left: Refused[] = [];
      for (const file of files) {
        try {
          came.push(await sendOne(file));
        } catch (error) {
          left.push({ name: file.name, why: error instanceof Error ? error.message : String(error) });
        }
        setDone((n) => n + 1);
      }
      setRefused(left);
      return came;
    },
    onSuccess: (came) => {
      if (came.length > 0) tell(`${plural(came.length, what)} came`);
      void queries.invalidateQueries();
      onSent(came);
    },
  });
  return { send: (files) => sending.mutate(files), isBusy: sending.isPending, done, of, refused, error: sending.error };
}
