/** One option of a family with its values: each renamed, moved, hidden, made dearer in place. */
import DragIndicatorIcon from '@mui/icons-material/DragIndicator';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import type { AxisDraft, ValueDraft } from '@velvet-shelf/core/catalog';
import type { ReactNode } from 'react';
import { useCompany } from '../../company/company';
import { Box } from '../../design/Box';
import { Ordered } from '../../design/Ordered';
import { plural } from '../../design/words';
import { sayMany } from '../made';

interface AxisValuesProps {
  axis: AxisDraft;
  handle: ReactNode;
  /** Variants that have it. */
  countOf: (value: string) => number;
  onChange: (to: Partial<AxisDraft>) => void;
  onSort: () => void;
}

export function AxisValues({ axis, handle, countOf, onChange, onSort }: AxisValuesProps) {
  const { currencies, manyValues } = useCompany();
  const { name, gone, values } = axis;
  const [many] = sayMany(values.length, manyValues);
  const change = (was: string, to: Partial<ValueDraft>) =>
    onChange({ values: values.map((value) => (value.was === was ? { ...value, ...to } : value)) });
  const charge = (value: ValueDraft, currency: string, text: string) => {
    const others = Object.entries(value.surcharge).filter(([other]) => other !== currency);
    const added: [string, string][] = text.trim() === '' ? [] : [[currency, text.trim()]];
    change(value.was, { surcharge: Object.fromEntries([...others, ...added]) });
  };
  return (
    <Box surface="card" framed pad={[2, 3]} below={2} faded={gone}>
      <Box row gap={2}>
        {handle}
        <TextField
          label="Option"
          value={name}
          disabled={gone}
          onChange={({ target }) => onChange({ name: target.value })}
          sx={{ width: 180 }}
          slotProps={{ htmlInput: { 'aria-label': `Name of ${axis.was}` } }}
        />
        <Box small muted grow>
          {plural(values.length, 'value')}
          {many !== undefined && (
            <Box as="span" tone="advice">
              {' '}
              · {many}
            </Box>
          )}
        </Box>
        {!gone && values.length > 1 && (
          <Button color="inherit" aria-label={`Sort the values of ${name}`} onClick={onSort}>
            Sort
          </Button>
        )}
        <Button
          color="inherit"
          aria-label={gone ? `Take ${name} back` : `${name} is no option`}
          onClick={() => onChange({ gone: !gone })}
        >
          {gone ? 'Take back' : 'No option'}
        </Button>
      </Box>
      {!gone && (
        <Ordered
          label={`Values of ${name}`}
          ids={values.map(({ was }) => was)}
          nameOf={(id) => values.find(({ was }) => was === id)?.value ?? ''}
          onOrder={(ids) =>
            onChange({ isOrdered: true, values: ids.flatMap((id) => values.find(({ was }) => was === id) ?? []) })
          }
        >
          {(id, place, drag) => {
            const value = values[place - 1];
            if (!value) return null;
            return (
              <Box row gap={2} pad={[0.5, 0]} faded={value.hidden}>
                <span {...drag} aria-label={`Move ${value.value}`} className="drag">
                  <DragIndicatorIcon fontSize="small" />
                </span>
                <TextField
                  variant="standard"
                  value={value.value}
                  onChange={({ target }) => change(id, { value: target.value })}
                  sx={{ flex: 1, minWidth: 80 }}
                  slotProps={{ htmlInput: { 'aria-label': `Name of ${value.was}` } }}
                />
                <Box as="span" small muted wide={66} fixed>
                  {plural(countOf(value.was), 'variant')}
                </Box>
                {currencies.slice(0, 2).map((currency) => (
                  <TextField
                    key={currency}
                    variant="standard"
                    placeholder="+ 0"
                    value={value.surcharge[currency] ?? ''}
                    onChange={({ target }) => charge(value, currency, target.value)}
                    sx={{ width: 74 }}
                    slotProps={{
                      htmlInput: {
                        'aria-label': `${value.value} adds to the price, ${currency}`,
                        inputMode: 'decimal',
                      },
                      input: {
                        endAdornment: (
                          <Box as="span" small muted>
                            {currency}
                          </Box>
                        ),
                      },
                    }}
                  />
                ))}
                <FormControlLabel
                  sx={{ m: 0 }}
                  control={
                    <Checkbox
                      size="small"
                      sx={{ p: 0.3 }}
                      checked={value.hidden}
                      onChange={({ target }) => change(id, { hidden: target.checked })}
                      slotProps={{ input: { 'aria-label': `Hide ${value.value}` } }}
                    />
                  }
                  label={
                    <Box as="span" small>
                      hide
                    </Box>
                  }
                />
              </Box>
            );
          }}
        </Ordered>
      )}
    </Box>
  );
}
