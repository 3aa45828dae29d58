/** What comes into the dictionary with a batch, and the columns that could: shown before the batch is tried. */
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useMutation } from '@tanstack/react-query';
import { type BatchAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { ProblemBox } from '../design/feedback';
import { RemoveButton } from '../design/RemoveButton';
import { plural } from '../design/words';
import { sayType } from '../dictionary/words';
import { batchWork } from './work';

type Homeless = BatchAnswer['homeless'][number];

const sayKind = (made: Pick<Homeless, 'type' | 'dimension' | 'many' | 'values'>) => {
  const { values } = made;
  const shown = `${values.slice(0, 4).join(', ')}${values.length > 4 ? ' …' : ''}`;
  return values.length > 0 ? `${sayType(made)}: ${shown}` : sayType(made);
};

export function Makes({
  batch,
  labels,
  off,
  onChange,
}: {
  batch: BatchAnswer;
  /** Of attributes, by key. */
  labels: ReadonlyMap<string, string>;
  off: boolean;
  onChange: (batch: BatchAnswer) => void;
}) {
  const { makes, homeless } = batch;
  const [leftOut, setLeftOut] = useState<ReadonlySet<string>>(new Set());
  const [isOpen, setOpen] = useState(false);
  const chosen = homeless.filter(({ column }) => !leftOut.has(column));
  const make = useMutation({
    mutationKey: batchWork(batch.id),
    mutationFn: () =>
      call(api.intake.make, {
        params: { id: batch.id },
        body: {
          attributes: chosen.map(({ why: _why, ...each }) => ({
            ...each,
            values: each.type === 'choice' ? each.values : [],
          })),
        },
      }),
    onSuccess: onChange,
  });
  const leave = useMutation({
    mutationKey: batchWork(batch.id),
    mutationFn: (keys: string[]) => call(api.intake.make, { params: { id: batch.id }, body: { leave: keys } }),
    onSuccess: onChange,
  });
  if (homeless.length === 0 && makes.attributes.length === 0 && makes.values.length === 0) return null;
  const error = make.error ?? leave.error;
  return (
    <Box below={3.5} framed pad={[2.5, 3.5]} surface="card" as="section" aria-label="New with this file">
      {(makes.attributes.length > 0 || makes.values.length > 0) && (
        <>
          <h3>Comes with this file</h3>
          <Box small muted below={1}>
            Made when the batch is applied, gone when it is undone.
          </Box>
          {makes.attributes.map(({ key, label, ...kind }) => (
            <Box row small key={key}>
              <b>{label}</b>
              <Box as="span" grow muted>
                {sayKind({
                  ...kind,
                  values: makes.values.filter(({ attribute }) => attribute === key).map(({ name }) => name),
                })}
              </Box>
              {!off && <RemoveButton of={label} onClick={() => leave.mutate([key])} />}
            </Box>
          ))}
          {listsOf(batch, labels).map(({ attribute, label, names, keys }) => (
            <Box row small key={attribute}>
              <b>{label}</b>
              <Box as="span" grow muted cut>
                {plural(names.length, 'new value')}: {names.join(', ')}
              </Box>
              {!off && <RemoveButton of={`new values of ${label}`} onClick={() => leave.mutate(keys)} />}
            </Box>
          ))}
        </>
      )}
      {homeless.length > 0 && !off && (
        <Box row align="start" gap={3}>
          <Box grow>
            <h3>{plural(homeless.length, 'column has', 'columns have')} no home</h3>
            {isOpen ? (
              homeless.map(({ column, ...guess }) => (
                <Box key={column} small>
                  <FormControlLabel
                    control={
                      <Checkbox
                        size="small"
                        checked={!leftOut.has(column)}
                        onChange={(_, on) =>
                          setLeftOut(
                            new Set(on ? [...leftOut].filter((each) => each !== column) : [...leftOut, column]),
                          )
                        }
                      />
                    }
                    label={
                      <>
                        {guess.label} <span className="muted">{sayKind(guess)}</span>
                      </>
                    }
                    slotProps={{ typography: { variant: 'body2' } }}
                  />
                </Box>
              ))
            ) : (
              <Box small muted>
                {homeless.map(({ column }) => column).join(', ')}
              </Box>
            )}
          </Box>
          {isOpen ? (
            <Button variant="outlined" disabled={make.isPending || chosen.length === 0} onClick={() => make.mutate()}>
              Make {plural(chosen.length, 'attribute')}
            </Button>
          ) : (
            <Button variant="outlined" onClick={() => setOpen(true)}>
              Make attributes of them
            </Button>
          )}
        </Box>
      )}
      {error && <ProblemBox error={error} />}
    </Box>
  );
}

/** New values of lists that are there already, by list. */
function listsOf({ makes }: BatchAnswer, labels: ReadonlyMap<string, string>) {
  const own = new Set(makes.attributes.map(({ key }) => key));
  const lists = new Map<string, { attribute: string; label: string; names: string[]; keys: string[] }>();
  for (const { attribute, name, key } of makes.values) {
    if (own.has(attribute)) continue;
    const label = labels.get(attribute) ?? attribute;
    const list = lists.get(attribute) ?? { attribute, label, names: [], keys: [] };
    list.names.push(name);
    list.keys.push(key);
    lists.set(attribute, list);
  }
  return [...lists.values()];
}
