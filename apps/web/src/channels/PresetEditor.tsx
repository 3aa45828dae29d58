/** One preset: its name, the goods it is applied to, and what it fills. */
import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../api/ask';
import { ConditionTree } from '../catalog/ConditionTree';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { fillAddress, sayAt } from './fillAt';
import { HandPicked } from './HandPicked';
import type { Draft } from './Presets';
import { useCompared } from './compared';
import { sayFillRule } from './sayFill';

export function PresetEditor({
  placeId,
  draft,
  onChange,
  onRemove,
}: {
  placeId: number;
  draft: Draft;
  onChange: (change: Partial<Draft>) => void;
  onRemove: () => void;
}) {
  const attributes = useCompared().data ?? [];
  const { name, condition, hand } = draft;
  return (
    <>
      <Box row align="center" below={5}>
        <TextField
          label="Name of the preset"
          value={name}
          autoFocus={name === ''}
          sx={{ width: 340 }}
          onChange={({ target }) => onChange({ name: target.value })}
        />
        <Box grow />
        <Button color="inherit" onClick={onRemove}>
          Take it away
        </Button>
      </Box>
      <Filled placeId={placeId} draft={draft} />
      <Box as="h3" around={[5, 0, 0]}>
        Applied to
      </Box>
      <FormControlLabel
        control={
          <Switch
            checked={condition !== null}
            onChange={(_, isOn) => onChange({ condition: isOn ? { all: [] } : null })}
          />
        }
        label="Goods that meet a condition"
      />
      {condition && (
        <Box around={[1, 0, 2]}>
          <ConditionTree
            label="Condition of the preset"
            condition={condition}
            attributes={attributes}
            onChange={(next) => onChange({ condition: next })}
          />
        </Box>
      )}
      <Box as="h3" around={[3, 0, 1]}>
        By hand
      </Box>
      <Box as="p" small muted around={[0, 0, 2]}>
        {condition ? 'Whatever the condition says. ' : ''}A family stands for all its variants.
      </Box>
      <HandPicked hand={hand} onChange={(next) => onChange({ hand: next })} />
    </>
  );
}

/** What it fills, each to be opened where fills are made. */
function Filled({ placeId, draft: { id, fills } }: { placeId: number; draft: Draft }) {
  const held = useQuery({ ...ask(api.channels.fills, { params: { id: placeId }, query: {} }), enabled: id !== null });
  const compared = useCompared().data ?? [];
  const [attribute, setAttribute] = useState<string | null>(null);
  const address = (to: { attribute: string; market?: string; category?: string }) =>
    fillAddress(placeId, { ...to, preset: id });
  const others = (held.data?.items ?? []).filter(({ key }) => !fills.some((fill) => fill.attribute === key));
  const known = [...(held.data?.items ?? []).flatMap(({ sources }) => sources), ...compared];
  const byKey = new Map(others.map(({ key, label }) => [key, label]));
  return (
    <>
      <Box as="h3" around={[0, 0, 1]}>
        It fills
      </Box>
      {id === null ? (
        <Box as="p" small muted>
          Keep it first; then say what it fills.
        </Box>
      ) : (
        <>
          {fills.length > 0 && (
            <DataTable
              label="What the preset fills"
              look={{ surface: 'card' }}
              rows={fills}
              keyOf={({ attribute: key, market, category }) => JSON.stringify([key, market, category])}
              columns={[
                {
                  head: 'Attribute',
                  cell: (fill) => (
                    <Link to={address(fill)}>
                      {fill.label}
                      {(fill.market !== '' || fill.category !== '') && ` · ${sayAt({ ...fill, presetName: null })}`}
                    </Link>
                  ),
                },
                { head: 'Filled by', cell: ({ fill }) => sayFillRule(fill.rule, known) },
              ]}
            />
          )}
          <Box row gap={2} above={2}>
            <Autocomplete
              size="small"
              sx={{ width: 300 }}
              options={others.map(({ key }) => key)}
              getOptionLabel={(key) => byKey.get(key) ?? key}
              value={attribute}
              onChange={(_, key) => setAttribute(key)}
              renderInput={(input) => <TextField {...input} label="An attribute it fills otherwise" />}
            />
            {attribute !== null && (
              <Button variant="outlined" component={Link} to={address({ attribute })}>
                Say how
              </Button>
            )}
          </Box>
        </>
      )}
    </>
  );
}
