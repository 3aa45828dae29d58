/** Pictures on their way in: one after the other, each with what became of it. */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type PictureAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { sendFile } from '../api/call';
import { useTell } from '../design/feedback';
import { plural } from '../design/words';

/** Formats that are taken, as the chooser of files wants them. */
export const pictureTypes = 'image/jpeg,image/png,image/webp,image/gif,image/tiff';

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

/** `onSent` gets those that came, once all are through; a refused one holds no other back. */
export function useSending(onSent: (pictures: readonly PictureAnswer[]) => void): Sending {
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
      const came: PictureAnswer[] = [];
      const left: Refused[] = [];
      for (const file of files) {
        try {
          came.push(await sendFile(api.pictures.upload, file));
        } catch (error) {
          left.push({ name: file.name, why: error instanceof Error ? error.message : String(error) });
        }
        setDone((n) => n + 1);
      }
      setRefused(left);
      return came;
    },
    onSuccess: (came) => {
      if (came.length > 0) tell(`${plural(came.length, 'picture')} came`);
      void queries.invalidateQueries();
      onSent(came);
    },
  });
  return { send: (files) => sending.mutate(files), isBusy: sending.isPending, done, of, refused, error: sending.error };
}
