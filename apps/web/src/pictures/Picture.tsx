/** One picture: how it looks, its measures, who names it, and what is seen on it in each language. */
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type PictureAnswer, api } from '@velvet-shelf/contract';
import { sayLanguage } from '@velvet-shelf/core/values';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { useCompany } from '../company/company';
import { Box } from '../design/Box';
import { Line } from '../design/Line';
import { Loaded, ProblemBox, useTell } from '../design/feedback';
import { Removal } from '../design/Removal';
import { Thumb } from '../design/Thumb';
import { bytes, clock, plural } from '../design/words';

export function Picture({ id, onGone }: { id: number; onGone: () => void }) {
  const picture = useQuery(ask(api.pictures.one, { params: { id } }));
  return (
    <Loaded query={picture}>
      {(data) => (
        <>
          <Box as="h2" breaks padRight={8} below={2}>
            {data.name}
          </Box>
          <Thumb name={data.name} size={260} />
          <Box above={2}>
            <Line label="Format">
              {data.format.toUpperCase()}, {data.width} × {data.height}, {bytes(data.bytes)}
            </Line>
            <Line label="Proportion">{sayProportion(data)}</Line>
            <Line label="Ground">
              {data.plain} % of its edge is one colour; {data.blank} % free on every side
            </Line>
            {data.changes.length > 0 && <Line label="When it came">{data.changes.join(', ')}</Line>}
            <Line label="Came">{clock(data.at)}</Line>
          </Box>
          <Alt key={JSON.stringify(data.alt)} picture={data} />
          <Box as="h3" above={4}>
            {data.goods.length === 0 ? 'Nothing names it' : `Named by ${plural(data.used, 'product')}`}
          </Box>
          <Box as="ul" unmarked aria-label="Goods that name it">
            {data.goods.map(({ id: product, kind, sku, title }) => (
              <li key={product}>
                <Link className="plain" to={`/catalog/product/${product}`}>
                  {title ?? 'no title'}
                </Link>{' '}
                <Box as="span" small muted>
                  {sku ?? kind}
                </Box>
              </li>
            ))}
          </Box>
          {data.used === 0 && (
            <Box above={3}>
              <Removal
                of={data.name}
                goes="It is thrown away for good."
                remove={() => call(api.pictures.remove, { params: { id } })}
                onDone={onGone}
              />
            </Box>
          )}
        </>
      )}
    </Loaded>
  );
}

function sayProportion({ width, height }: PictureAnswer): string {
  if (width === height) return 'square';
  const [long, short] = [Math.max(width, height), Math.min(width, height)];
  return `${width > height ? 'wide' : 'tall'}, ${(long / short).toFixed(2)} to 1`;
}

function Alt({ picture }: { picture: PictureAnswer }) {
  const { languages } = useCompany();
  const queries = useQueryClient();
  const tell = useTell();
  const [alt, setAlt] = useState(picture.alt);
  const save = useMutation({
    mutationFn: () => call(api.pictures.alt, { params: { id: picture.id }, body: { alt } }),
    onSuccess: () => {
      void queries.invalidateQueries();
      tell('Saved what is seen on it');
    },
  });
  const isChanged = languages.some((language) => (alt[language] ?? '') !== (picture.alt[language] ?? ''));
  return (
    <Box
      as="form"
      columns
      gap={2}
      above={4}
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <h3>What is seen on it</h3>
      {languages.map((language) => (
        <TextField
          key={language}
          size="small"
          multiline
          label={sayLanguage(language)}
          value={alt[language] ?? ''}
          onChange={({ target }) => setAlt({ ...alt, [language]: target.value })}
        />
      ))}
      {save.error && <ProblemBox error={save.error} />}
      <Box row>
        <Button type="submit" variant="outlined" disabled={!isChanged || save.isPending}>
          Save
        </Button>
      </Box>
    </Box>
  );
}
