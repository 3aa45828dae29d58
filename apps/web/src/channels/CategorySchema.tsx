/** A category of the rulebook in use as JSON Schema: taken out to a file, or read from one into a new version. */
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useRef, useState } from 'react';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { ProblemBox, useTell } from '../design/feedback';
import { readJson, saveJson } from '../design/files';
import { plural } from '../design/words';
import { CategoryPick } from './CategoryPick';

export function CategorySchema({ placeId, rulebookId }: { placeId: number; rulebookId: number }) {
  const params = { id: placeId, rulebookId };
  const tree = useQuery({ ...ask(api.channels.tree, { params: { id: placeId } }), staleTime: 300_000 });
  const [category, setCategory] = useState<{ path: string; names: string[] } | null>(null);
  const [version, setVersion] = useState('');
  const input = useRef<HTMLInputElement>(null);
  const queries = useQueryClient();
  const tell = useTell();
  const write = useMutation({
    mutationFn: (path: string) => call(api.channels.categorySchema, { params, query: { category: path } }),
    onSuccess: ({ schema }) => {
      const name = `${category?.path.replaceAll('/', '-') ?? 'category'}.schema.json`;
      saveJson(name, schema, 'application/schema+json');
    },
  });
  const read = useMutation({
    mutationFn: async (file: File) =>
      call(api.channels.readSchema, {
        params,
        body: { category: category?.path ?? '', version, schema: await readJson(file) },
      }),
    onSuccess: ({ version: made, attributes }) => {
      tell(`Loaded version ${made} with ${plural(attributes, 'attribute')}; it is not in use yet`);
      setVersion('');
      void queries.invalidateQueries();
    },
  });
  const left = read.data?.left ?? write.data?.left ?? [];
  const choose = (next: typeof category) => {
    setCategory(next);
    write.reset();
    read.reset();
  };
  return (
    <Box as="section" above={3} aria-label="A category as JSON Schema">
      <Box as="h3">A category as JSON Schema</Box>
      <Box row wrap above={1} align="end">
        <CategoryPick
          label="Category"
          isShown
          placeholder="of the channel’s tree"
          width={380}
          options={tree.data?.items ?? []}
          value={category}
          onPick={(path) => choose(tree.data?.items.find((item) => item.path === path) ?? null)}
        />
        <Button
          variant="outlined"
          disabled={!category || write.isPending}
          onClick={() => category && write.mutate(category.path)}
        >
          Save it as a file
        </Button>
        <Box as="span" wide={16} />
        <TextField
          label="As version"
          value={version}
          onChange={({ target }) => setVersion(target.value)}
          sx={{ width: 130 }}
          slotProps={{ htmlInput: { maxLength: 60 } }}
        />
        <input
          ref={input}
          type="file"
          hidden
          accept=".json,application/json,application/schema+json"
          aria-label="Schema file"
          onChange={({ target }) => {
            const [file] = target.files ?? [];
            if (file) read.mutate(file);
            // The same file once more is another try.
            target.value = '';
          }}
        />
        <Button
          variant="outlined"
          color="inherit"
          disabled={!category || version.trim() === '' || read.isPending}
          onClick={() => input.current?.click()}
        >
          Read one from a file
        </Button>
      </Box>
      {(write.error ?? read.error) && <ProblemBox error={write.error ?? read.error} />}
      {left.length > 0 && (
        <Box small above={2} role="status">
          <b>{read.data ? 'Not carried over:' : 'What the file does not say:'}</b>
          {left.map((words) => (
            <Box key={words} muted>
              {words}
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}
