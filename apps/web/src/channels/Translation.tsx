/** A translation: the pairs there are, the words that have none yet with what each may be, and any other pair by hand. */
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import { type ChannelAttributeAnswer, api } from '@velvet-shelf/contract';
import type { FillRule } from '@velvet-shelf/core/fills';
import { useState } from 'react';
import { useParams } from 'react-router';
import { ask } from '../api/ask';
import { Box } from '../design/Box';
import { ProblemBox } from '../design/feedback';
import { count, plural } from '../design/words';
import { ChannelValue } from './ChannelValue';
import { SourceSelect } from './SourceSelect';
import { useCompared } from './compared';

type TranslateRule = Extract<FillRule, { kind: 'translate' }>;

export function Translation({
  rule,
  attribute,
  onChange,
}: {
  rule: TranslateRule;
  attribute: ChannelAttributeAnswer;
  onChange: (rule: FillRule) => void;
}) {
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  const compared = useCompared().data ?? [];
  const listed = compared.find(({ key }) => key === rule.from)?.choices ?? null;
  return (
    <div>
      <Box row below={2}>
        <SourceSelect
          attribute={attribute}
          label="Translates"
          value={rule.from}
          onChange={(name) => onChange({ ...rule, from: name })}
        />
        <TextField
          select
          label="What is not in the table"
          value={rule.otherwise}
          onChange={(event) => onChange({ ...rule, otherwise: event.target.value as 'keep' | 'empty' })}
          sx={{ width: 190 }}
        >
          <MenuItem value="keep">is kept as it is</MenuItem>
          <MenuItem value="empty">gives nothing</MenuItem>
        </TextField>
      </Box>
      <Box wrap row gap={1.5}>
        {Object.entries(rule.table).map(([ours, theirs]) => (
          <Chip
            key={ours}
            size="small"
            label={`${listed?.find(({ key }) => key === ours)?.name ?? ours} → ${theirs}`}
            onDelete={() =>
              onChange({
                ...rule,
                table: Object.fromEntries(Object.entries(rule.table).filter(([key]) => key !== ours)),
              })
            }
          />
        ))}
      </Box>
      <Untranslated
        attribute={attribute}
        from={rule.from}
        table={rule.table}
        onAdd={(pairs) => onChange({ ...rule, table: { ...rule.table, ...pairs } })}
      />
      <Box
        as="form"
        row
        above={2}
        onSubmit={(event) => {
          event.preventDefault();
          onChange({ ...rule, table: { ...rule.table, [from]: to } });
          setFrom('');
          setTo('');
        }}
      >
        <TextField
          select={listed !== null}
          label="Our value"
          value={from}
          onChange={(event) => setFrom(event.target.value)}
          sx={{ width: 150 }}
        >
          {listed?.map(({ key, name }) => (
            <MenuItem key={key} value={key}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <ChannelValue attribute={attribute} label="Theirs" width={150} value={to} onChange={setTo} />
        <Button type="submit" disabled={from === '' || to === ''}>
          Add
        </Button>
      </Box>
    </div>
  );
}

/** From here on suggestions are taken together. */
const sure = 90;
const mostShown = 12;

/** Words of ours without a pair, most goods first. */
function Untranslated({
  attribute,
  from,
  table,
  onAdd,
}: {
  attribute: ChannelAttributeAnswer;
  from: string;
  table: TranslateRule['table'];
  onAdd: (pairs: TranslateRule['table']) => void;
}) {
  const id = Number(useParams().id);
  const [isWhole, setWhole] = useState(false);
  const isListed = attribute.values !== null;
  const words = useQuery({
    ...ask(api.channels.words, { params: { id, attribute: attribute.key }, query: { from } }),
    enabled: isListed && from !== '',
    staleTime: 60_000,
  });
  if (words.error) return <ProblemBox error={words.error} />;
  // What is a value of theirs already needs no pair.
  const open = (words.data?.items ?? []).filter(
    ({ value, name }) => table[value] === undefined && !attribute.values?.includes(name),
  );
  if (open.length === 0) return null;
  const many = open.flatMap(({ value, suggestions: [best] }) =>
    best && best.score >= sure ? [[value, best.value] as const] : [],
  );
  const goods = open.reduce((sum, word) => sum + word.goods, 0);
  return (
    <Box as="section" above={2} aria-label="Not translated yet">
      <Box row align="baseline">
        <Box as="h3" grow>
          {plural(open.length, 'word')} not translated yet, on {plural(goods, 'listing')}
        </Box>
        {many.length > 1 && (
          <Button onClick={() => onAdd(Object.fromEntries(many))}>
            Take {many.length} of {sure} % and above
          </Button>
        )}
      </Box>
      {open.slice(0, isWhole ? undefined : mostShown).map(({ value, name, goods: n, suggestions }) => (
        <Box key={value} row wrap align="baseline" gap={[0, 3]} pad={[1, 0]} line="bottom">
          <Box as="span" wide={150} fixed cut title={name}>
            {name}{' '}
            <Box as="span" small muted>
              {count(n)}
            </Box>
          </Box>
          {suggestions.map((one) => (
            <Button
              key={one.value}
              color="secondary"
              sx={{ p: 0, minWidth: 0 }}
              title={one.evidence.join(' · ')}
              aria-label={`${name} is ${one.value}`}
              onClick={() => onAdd({ [value]: one.value })}
            >
              {one.value}&nbsp;
              <Box as="span" small muted>
                {one.score} %
              </Box>
            </Button>
          ))}
          {suggestions.length === 0 && (
            <Box as="span" small muted>
              nothing on their list is like it
            </Box>
          )}
        </Box>
      ))}
      {open.length > mostShown && !isWhole && (
        <Button color="secondary" onClick={() => setWhole(true)}>
          Show all {count(open.length)}
        </Button>
      )}
    </Box>
  );
}
